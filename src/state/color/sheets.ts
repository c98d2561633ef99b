import { usageOf, usageWords } from './usage';
import { usesInAll } from '@/core/kit/colorings/usesOfCells';
import { group, groupForAll, type Edit } from '@/core/kit/edit/edit';
import { freeName } from '@/core/kit/freeName';
import type { Sheet } from '@/core/kit/kit';
import { kitAfter } from '@/core/kit/edit/kitAfter';
import { goingTo, retireInDocument } from '@/core/sheet/retireCells';
import { starterSheet } from '@/core/sheet/starter';
import { attempt, useBoard } from './board';
import { dispatch } from '../kit/edits';
import { baseState } from '../kit/editor';

const kit = () => baseState().kit;

/** A further sheet: another material. */
export function addSheet(): void {
  const { sheets, nextCell } = kit();
  const name = freeName(
    'Second sheet',
    sheets.map((s) => s.name),
  );
  const after = starterSheet(nextCell, name);
  const edits: Edit[] = [
    { kind: 'put', list: 'sheets', of: 'kit', index: sheets.length, before: null, after },
    { kind: 'set', of: 'kit', before: { nextCell }, after: { nextCell: nextCell + after.cells.length } },
  ];
  if (dispatch(group('Add a sheet', edits))) useBoard.setState({ sheetId: after.id, selected: [] });
}

/** Only a sheet that no face sits on and no texel shows, and not the last one. Models that named it name the first other one. */
export function removeSheet(sheet: Sheet): void {
  attempt(() => {
    const { sheets, models } = kit();
    const uses = usesInAll(baseState());
    const used = usageWords(usageOf(uses, sheet.cells));
    if (used) throw new Error(`${used} on “${sheet.name}”. Move them to other colors first.`);
    const other = sheets.find((s) => s.id !== sheet.id);
    if (!other) throw new Error('A kit needs one sheet.');
    const moves: Edit[] = models.flatMap((m, index) => (m.sheet === sheet.id ? [moveModel(index, other.id)] : []));
    const retired = retireInDocument(kitAfter(kit(), moves), goingTo(sheet.cells.map((c) => c.id)));
    const index = sheets.findIndex((s) => s.id === sheet.id);
    const before = retired.kit.sheets[index]!;
    return groupForAll(`Remove ${sheet.name}`, [
      ...moves,
      ...retired.edits,
      { kind: 'put', list: 'sheets', of: 'kit', index, before, after: null },
    ]);
  });
}

function moveModel(index: number, sheet: string): Edit {
  const before = kit().models[index]!;
  return { kind: 'put', list: 'models', of: 'kit', index, before, after: { ...before, sheet } };
}

/** The sheet that a model is colored on from now on; its faces stay where they are. */
export function chooseSheetFor(modelId: string, sheet: string): void {
  const index = kit().models.findIndex((m) => m.id === modelId);
  if (index >= 0 && kit().models[index]!.sheet !== sheet) dispatch(group('Choose a sheet', [moveModel(index, sheet)]));
}

export function renameSheet(sheet: Sheet, name: string): void {
  if (name && name !== sheet.name)
    dispatch(group('Rename a sheet', [{ kind: 'set', of: sheet.id, before: { name: sheet.name }, after: { name } }]));
}

/** Whether engines mix neighbouring texels. */
export const setFilter = (sheet: Sheet, filter: Sheet['filter']): boolean =>
  filter !== sheet.filter && dispatch({ kind: 'set', of: sheet.id, before: { filter: sheet.filter }, after: { filter } }) !== null;

/** Whether colors may be added in the empty places of a frozen sheet. Once one is there, it is decided. */
export function allowAppending(sheet: Sheet, isAllowed: boolean): void {
  const { frozen } = sheet;
  if (!frozen || frozen.appended?.length || Boolean(frozen.appended) === isAllowed) return;
  const after = isAllowed ? { picture: frozen.picture, appended: [] } : { picture: frozen.picture };
  dispatch(group('Change a frozen sheet', [{ kind: 'set', of: sheet.id, before: { frozen }, after: { frozen: after } }]));
}
