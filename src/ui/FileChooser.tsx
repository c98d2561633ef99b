'use client';
import { useRef, type ReactNode } from 'react';

/** A button that asks for files. `label` names the hidden field, for readers and tests. */
export function FileChooser({
  label,
  accept,
  multiple = false,
  folder = false,
  onFiles,
  className,
  children,
}: {
  label: string;
  accept: string;
  multiple?: boolean;
  /** A folder with all that is in it. */
  folder?: boolean;
  onFiles: (files: File[]) => void;
  className?: string;
  children: ReactNode;
}) {
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <button type="button" onClick={() => field.current?.click()} className={className}>
        {children}
      </button>
      <input
        ref={field}
        type="file"
        hidden
        multiple={multiple}
        {...(folder && { webkitdirectory: '' })}
        aria-label={label}
        accept={accept}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          // So that the same file can be chosen again.
          e.target.value = '';
          if (files.length) onFiles(files);
        }}
      />
    </>
  );
}

export const modelFiles = '.obj,.mtl,.glb,.gltf,.bin,.ply,.stl,.png,.jpg,.jpeg,.webp';
export const pictureFiles = '.png,.jpg,.jpeg,.webp';
/** Palettes are known by what is in them, so that a file of any name may be chosen. */
export const paletteFiles = '';
