'use client';
import { useEffect, useState } from 'react';

/** The first models of a kit, side by side. */
export function KitPicture({ bytes }: { bytes: Uint8Array | undefined }) {
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => {
    if (!bytes) return;
    const url = URL.createObjectURL(new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'image/png' }));
    // The address is a resource of this component: made and given back by it.
    // eslint-disable-next-line react-hooks/set-state-in-effect
    setAddress(url);
    return () => URL.revokeObjectURL(url);
  }, [bytes]);
  return (
    <span className="flex aspect-[32/9] items-center justify-center bg-surround px-5">
      {address ? (
        // eslint-disable-next-line @next/next/no-img-element
        <img src={address} alt="" width={640} height={160} className="h-auto w-full" />
      ) : (
        <span className="text-paper">No model yet</span>
      )}
    </span>
  );
}
