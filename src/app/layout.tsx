import '@fontsource-variable/archivo/standard.css';
import './globals.css';
import type { Metadata } from 'next';
import { connection } from 'next/server';
import type { ReactNode } from 'react';
import { Announcer } from '@/ui/Announcer';
import { Notices } from '@/ui/Notices';

export const metadata: Metadata = { title: 'Oligochrome', description: 'Color low-poly game models with a tiny shared palette texture.' };

export default async function Layout({ children }: { children: ReactNode }) {
  // Made for each request: its scripts carry the number of its policy (`src/proxy.ts`).
  await connection();
  return (
    <html lang="en">
      <body>
        {children}
        <Announcer />
        <Notices />
      </body>
    </html>
  );
}
