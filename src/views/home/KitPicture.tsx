'use client';
import { useEffect, useState } from 'react';
import type { KitEntry } from '@/data/kits';

/** The first models of a kit, side by side. */
export function KitPicture({ bytes }: { bytes: Uint8Array | undefined }) {
  const address = useAddress(bytes);
  return (
    <span className="flex aspect-[32/9] items-center justify-center bg-surround px-5">
      {address ? (
        // eslint-disable-next-line @next/next/no-img-element
        <img src={address} alt="" width={960} height={240} className="h-auto w-full" />
      ) : (
        <span className="text-paper">No model yet</span>
      )}
    </span>
  );
}

/** Its sheet as it leaves, each texel a block; its first colors where no small picture of it is kept. */
export function SheetOfKit({ kit }: { kit: KitEntry }) {
  const address = useAddress(kit.portrait?.sheet);
  return (
    <span aria-hidden className="flex h-16 w-16 shrink-0 flex-wrap content-start border border-hairline">
      {address ? (
        // eslint-disable-next-line @next/next/no-img-element
        <img src={address} alt="" className="h-full w-full object-contain" style={{ imageRendering: 'pixelated' }} />
      ) : (
        kit.colors.map((c, i) => <span key={i} className="h-1/4 w-1/4" style={{ background: c }} />)
      )}
    </span>
  );
}

/** An address under which the bytes of a picture can be shown. */
function useAddress(bytes: Uint8Array | undefined): string | null {
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => {
    if (!bytes) return;
    const url = URL.createObjectURL(new Blob([bytes as Uint8Array<ArrayBuffer>]));
    // The address is a resource of this component: made and given back by it.
    // eslint-disable-next-line react-hooks/set-state-in-effect
    setAddress(url);
    return () => URL.revokeObjectURL(url);
  }, [bytes]);
  return bytes ? address : null;
}
