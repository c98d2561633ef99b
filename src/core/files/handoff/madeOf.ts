import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { inOneOrder } from '../../ground/inOneOrder';
import type { HandOff, KitState, SeatPatch, Seats, Sheet } from '../../kit/kit';
import { paintedByVariant, paintedIn, pixelsOf } from '../../kit/pixels';
import { inherits } from '../../ground/limits';
import { partFormats, type FormatId } from '../../kit/handOffPlan';
import type { PlannedFile } from './tree';

/**
 * What a planned file is made of, by content: as long as it is the same, writing it anew gives the same bytes. It counts
 * rather too much than too little. Of a model its document and where its faces sit; of sheets those on which they sit in
 * any coloring that is in the file; and how the part and the plan write them.
 */
export function madeOf(state: KitState, handOff: HandOff, file: PlannedFile): string {
  const { kit, seats, patches } = state;
  const part = handOff.parts[file.part]!;
  const sum = sha256.create();
  const add = (value: unknown) => sum.update(utf8ToBytes(`${JSON.stringify(inOneOrder(value))}\n`));
  add({ part, path: file.path, letters: handOff.letters, between: handOff.between, version: handOff.version });
  const addPainted = (sheets: readonly Sheet[]) => {
    const art = paintedIn({ sheets: [...sheets] });
    // Its texels may show any cell, in the color that a variant gives it.
    if (art.length) add({ sheets: kit.sheets, variants: kit.variants });
    const ofVariants = art.length ? kit.variants.flatMap((v) => paintedByVariant(v).map(([, own]) => own)) : [];
    for (const key of [...art, ...ofVariants]) {
      const own = state.pixels?.[pixelsOf(key)];
      add(own ? [own.width, own.height] : null);
      if (own) sum.update(new Uint8Array(own.cells.buffer, own.cells.byteOffset, own.cells.byteLength));
    }
  };
  if (partFormats[part.format as FormatId].of === 'sheets') {
    add(file.sheet);
    if (file.sheet) addPainted([file.sheet]);
    return bytesToHex(sum.digest());
  }
  const variants = kit.variants.filter((v) => v.model === undefined || file.models.some((m) => m.id === v.model));
  const used = new Set<number>();
  const look = (cells: Uint16Array) => cells.forEach((c) => c !== inherits && used.add(c));
  for (const model of file.models) {
    add(model);
    addArrays(sum, seats[model.id]!);
    look(seats[model.id]!.cell);
    for (const { id } of variants) {
      const patch = patches?.[id]?.[model.id];
      add(patch ? id : null);
      if (!patch) continue;
      addArrays(sum, patch);
      look(patch.cell);
    }
  }
  const sheets = kit.sheets.map((s) => (s.cells.some((c) => used.has(c.id)) ? s : { id: s.id, name: s.name }));
  // Rules may take colors from any cell.
  const told = variants.some((v) => v.rules?.length) ? kit.sheets : sheets;
  add({ name: kit.name, slotsFrom: kit.slotsFrom ?? 0, startsWith: kit.startsWith, variant: file.variant, variants, sheets: told });
  addPainted(kit.sheets.filter((s) => s.cells.some((c) => used.has(c.id))));
  add({ names: kit.models.map((m) => m.name), withoutUnseen: handOff.withoutUnseen });
  return bytesToHex(sum.digest());
}

function addArrays(sum: ReturnType<typeof sha256.create>, of: Partial<Seats & SeatPatch>): void {
  for (const array of [of.cell, of.region, of.rule, of.at]) {
    sum.update(Uint8Array.of(array ? 1 : 0));
    if (array) sum.update(new Uint8Array(array.buffer, array.byteOffset, array.byteLength));
  }
}
