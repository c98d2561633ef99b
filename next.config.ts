import type { NextConfig } from 'next';

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  devIndicators: false,
  // Types are checked by `npm test`; once is enough.
  typescript: { ignoreBuildErrors: true },
  turbopack: {
    // Draco's decoder asks for Node's modules only where it runs in Node.
    resolveAlias: { fs: { browser: './src/workers/absent.ts' }, path: { browser: './src/workers/absent.ts' } },
  },
};

export default config;
