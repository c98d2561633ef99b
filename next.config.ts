import type { NextConfig } from 'next';

/** For everything that is served. Pages have a policy of their own in `src/proxy.ts`; this one is for workers, which compile decoders. */
const headers = [
  { key: 'X-Content-Type-Options', value: 'nosniff' },
  { key: 'Referrer-Policy', value: 'no-referrer' },
  // All that we use is our own, so that isolation costs nothing.
  { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
  { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
  { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
];
const workerPolicy = "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; object-src 'none'; frame-ancestors 'none'";

const config: NextConfig = {
  headers: () =>
    Promise.resolve([
      { source: '/:path*', headers },
      { source: '/_next/static/:path*', headers: [{ key: 'Content-Security-Policy', value: workerPolicy }] },
    ]),
  reactStrictMode: true,
  poweredByHeader: false,
  // On one computer packing costs more than it saves: half a second at each opening. A proxy in front packs once for all.
  compress: false,
  devIndicators: false,
  // Types are checked by `npm test`; once is enough.
  typescript: { ignoreBuildErrors: true },
  turbopack: {
    resolveAlias: {
      // Draco's decoder asks for Node's modules only where it runs in Node.
      fs: { browser: './src/workers/absent.ts' },
      path: { browser: './src/workers/absent.ts' },
      ndarray: { browser: './src/workers/absentPixels.ts' },
      'ndarray-pixels': { browser: './src/workers/absentPixels.ts' },
      'ndarray-lanczos': { browser: './src/workers/absentPixels.ts' },
    },
  },
};

export default config;
