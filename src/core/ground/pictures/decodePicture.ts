import { PhotonImage } from '@cf-wasm/photon/others';
import type { Raster } from './raster';
import { FileError, fileErrorOf } from '../bytes/errors';
import { renewPhoton, startPhoton } from './photon';
import { pictureLimits, probePicture } from './picture';

/**
 * Gives the decoder its code (the package's `photon.wasm`): from our own server in a browser, from the disk
 * in Node.js.
 */
export const startPictureDecoder: (wasm: BufferSource) => void = startPhoton;

/** PNG, JPEG or WebP as 8 bits of sRGB and alpha. Throws `FileError`. The decoder must have been started. */
export function decodePicture(file: string, bytes: Uint8Array): Raster {
  if (bytes.length > pictureLimits.bytes)
    throw new FileError(
      file,
      `it has ${Math.round(bytes.length / 1048576)} MB; pictures up to ${pictureLimits.bytes / 1048576} MB are read.`,
    );
  const probe = probePicture(bytes);
  if (!probe) throw new FileError(file, 'it is no PNG, JPEG or WebP picture, or it is damaged.');
  const { width, height } = probe;
  if (width < 1 || height < 1 || Math.max(width, height) > pictureLimits.side || width * height > pictureLimits.pixels)
    throw new FileError(
      file,
      `it has ${width} × ${height} pixels; pictures up to ${pictureLimits.side} a side and 32 million pixels are read.`,
    );
  let image: PhotonImage | null = null;
  try {
    image = PhotonImage.new_from_byteslice(bytes);
    const raster = { width: image.get_width(), height: image.get_height(), data: image.get_raw_pixels() };
    image.free();
    return raster;
  } catch (error) {
    if (error instanceof WebAssembly.RuntimeError) renewPhoton(image);
    throw fileErrorOf(file, error, 'it cannot be read as a picture');
  }
}
