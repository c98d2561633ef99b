import type { Rgb } from '../../ground/color/oklab';
import { baseName, decodeName, Scanner, utf8Bytes } from '../../ground/bytes/text';

export interface MtlMaterial {
  name: string;
  /** sRGB: diffuse colors of MTL are taken as display values. */
  color: Rgb;
  hasColor: boolean;
  /** Base name of the color picture. */
  picture?: string;
  /** 0..1, where it is see-through. */
  alpha?: number;
}

/**
 * The materials of an MTL file; statements that do not concern color are passed over. Never throws: a model
 * reads without its materials too.
 */
export function readMtl(data: Uint8Array): MtlMaterial[] {
  const s = new Scanner(utf8Bytes(data));
  const materials: MtlMaterial[] = [];
  while (s.at < s.end) {
    const word = s.word().toLowerCase();
    const current = materials.at(-1);
    if (word === 'newmtl') materials.push({ name: decodeName(s.restOfLine()), color: [200, 200, 200], hasColor: false });
    else if (word === 'kd' && current) {
      const r = s.number();
      if (r !== undefined && Number.isFinite(r)) {
        const byte = (v: number) => Math.max(0, Math.min(255, Math.round(v * 255))) || 0;
        const g = s.number() ?? r;
        const b = s.number() ?? r;
        current.color = [byte(r), byte(g), byte(b)];
        current.hasColor = true;
      }
    } else if ((word === 'd' || word === 'tr') && current) {
      const value = s.number();
      // `Tr` is the opposite of `d`; where a file has both, `d` is what more programs write right.
      const alpha = value === undefined || !Number.isFinite(value) ? 1 : Math.max(0, Math.min(1, word === 'd' ? value : 1 - value));
      if (word === 'd' || current.alpha === undefined) current.alpha = alpha;
    } else if (word === 'map_kd' && current) {
      const picture = pictureName(decodeName(s.restOfLine()));
      if (picture) current.picture = picture;
    }
    s.nextLine();
  }
  return materials;
}

/** The picture of a map statement, after its options; paths may hold spaces and backslashes. */
function pictureName(statement: string): string {
  const options = /^-(?:(?:blendu|blendv|cc|clamp|imfchan|texres|bm|boost|type)\s+\S+|mm\s+\S+\s+\S+|[ost](?:\s+-?[\d.eE+-]+){1,3})\s+/;
  let rest = statement;
  while (options.test(rest)) rest = rest.replace(options, '');
  return baseName(rest.replace(/^"|"$/g, '').trim());
}
