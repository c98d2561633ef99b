import type { ReactNode } from 'react';
import { isPicture, openPalettePicture } from '@/state/sheet/adopting';
import { openPalette } from '@/state/files/palettes';
import { FileChooser, paletteFiles } from '@/ui/FileChooser';

/** Colors from a palette file. */
export function PaletteChooser({
  children,
  className = 'border-b border-[#999] text-[11px] hover:border-ink',
}: {
  children: ReactNode;
  className?: string;
}) {
  return (
    <FileChooser
      label="Open a palette file"
      accept={paletteFiles}
      onFiles={([file]) => void (isPicture(file!.name) ? openPalettePicture(file!) : openPalette(file!))}
      className={className}
    >
      {children}
    </FileChooser>
  );
}
