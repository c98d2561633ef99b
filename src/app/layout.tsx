import '@fontsource-variable/archivo/standard.css';
import './globals.css';
import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { Announcer } from '@/ui/Announcer';
import { Notices } from '@/ui/Notices';

export const metadata: Metadata = { title: 'Oligochrome', description: 'Color low-poly game models with a tiny shared palette texture.' };

export default function Layout({ children }: { children: ReactNode }) {
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
