import type { ButtonHTMLAttributes, Ref } from 'react';

type Kind = 'solid' | 'line' | 'bare';
const looks: Record<Kind, string> = {
  solid: 'border border-ink bg-ink text-paper hover:bg-[#333] disabled:border-hairline disabled:bg-hairline disabled:text-quiet',
  line: 'border border-ink bg-white hover:bg-wash disabled:border-hairline disabled:text-quiet disabled:bg-paper',
  bare: 'border border-transparent hover:bg-wash disabled:text-quiet',
};

export function Button({
  kind = 'line',
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: Kind; ref?: Ref<HTMLButtonElement> }) {
  return (
    <button
      type="button"
      {...rest}
      className={`inline-flex min-h-8 items-center justify-center gap-2 px-3 font-medium whitespace-nowrap ${looks[kind]} ${className}`}
    />
  );
}

export function Key({ children, dark = false }: { children: string; dark?: boolean }) {
  return (
    <kbd
      className={`inline-flex h-[17px] min-w-[18px] shrink-0 whitespace-nowrap items-center justify-center border px-1 font-sans text-[11px] font-medium ${dark ? 'border-[#777] text-paper' : 'border-[#9a9a9a] bg-white text-ink'}`}
    >
      {children}
    </kbd>
  );
}
