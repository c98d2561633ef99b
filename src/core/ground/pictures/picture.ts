import type { Raster } from './raster';

/** A picture with its file: what goes out unchanged must go out byte for byte. */
export interface KitPicture {
  bytes: Uint8Array;
  raster: Raster;
}
export type KitPictures = ReadonlyMap<string, KitPicture>;

export const pictureLimits = { bytes: 64 * 1024 * 1024, side: 8192, pixels: 8192 * 4096 } as const;
export type PictureKind = 'png' | 'jpeg' | 'webp';

/** What a file's first bytes say it is, and its size in pixels; `null` for anything but PNG, JPEG and WebP. */
export function probePicture(bytes: Uint8Array): { kind: PictureKind; width: number; height: number } | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 30) return null;
  if (view.getUint32(0) === 0x89504e47) return { kind: 'png', width: view.getUint32(16), height: view.getUint32(20) };
  if (view.getUint16(0) === 0xffd8) return probeJpeg(view);
  if (view.getUint32(0) === 0x52494646 && view.getUint32(8) === 0x57454250) return probeWebp(view);
  return null;
}

/** The frame header among a JPEG's segments. Source: ITU-T T.81, annex B. */
function probeJpeg(view: DataView): ReturnType<typeof probePicture> {
  for (let at = 2; at + 9 < view.byteLength;) {
    if (view.getUint8(at) !== 0xff) return null;
    const marker = view.getUint8(at + 1);
    if (marker === 0xff) at++;
    else if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker))
      return { kind: 'jpeg', width: view.getUint16(at + 7), height: view.getUint16(at + 5) };
    else at += 2 + view.getUint16(at + 2);
  }
  return null;
}

/** Source: RFC 9649, WebP image format. */
function probeWebp(view: DataView): ReturnType<typeof probePicture> {
  const chunk = view.getUint32(12);
  const uint24 = (at: number) => view.getUint16(at, true) | (view.getUint8(at + 2) << 16);
  if (chunk === 0x56503858) return { kind: 'webp', width: uint24(24) + 1, height: uint24(27) + 1 };
  if (chunk === 0x56503820) return { kind: 'webp', width: view.getUint16(26, true) & 0x3fff, height: view.getUint16(28, true) & 0x3fff };
  if (chunk === 0x5650384c) {
    const bits = view.getUint32(21, true);
    return { kind: 'webp', width: (bits & 0x3fff) + 1, height: ((bits >> 14) & 0x3fff) + 1 };
  }
  return null;
}
