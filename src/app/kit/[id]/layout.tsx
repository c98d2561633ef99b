import type { ReactNode } from 'react';
import { KitShell } from '@/views/shell/KitShell';

export default async function Layout({ children, params }: { children: ReactNode; params: Promise<{ id: string }> }) {
  return <KitShell id={(await params).id}>{children}</KitShell>;
}
