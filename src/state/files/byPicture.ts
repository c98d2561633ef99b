import { apartSheet } from '@/core/faces/adopt/apartSheet';
import { seatByUvs } from '@/core/faces/adopt/seatsByUvs';
import { group, type Edit } from '@/core/kit/edit/edit';
import { stemOf } from '@/core/ground/bytes/text';
import type { KitState, Model, Sheet } from '@/core/kit/kit';
import { count } from '@/core/ground/words';
import { keepBlob } from '@/data/blobs';
import { longWorker } from '@/workers/client';
import type { ModelFiles, PictureApart, SeatsOnSheet } from '@/workers/adopting';
import { dispatch, refusedAsReadOnly } from '../kit/edits';
import { kitMoment, useEditor } from '../kit/editor';
import { filesOf } from '../kit/meshes';
import { keepPicture, pictureFiles } from '../chosen/pictures';
import { announce } from '../told/announce';
import { notifyError } from '../told/notices';

/** A model none of whose faces is colored, and which came with a picture. */
function isBare({ id, mesh }: Model): boolean {
  const { state, meshes } = useEditor.getState();
  const came = meshes[mesh]?.mesh;
  return state.seats[id]!.cell.every((c) => c === 0) && came !== undefined && came.uvSets.length > 0 && came.slots.some((s) => s.picture);
}

/** Bare models with their files, the given one first. */
async function bareModels(first: string): Promise<ModelFiles[]> {
  const models = useEditor.getState().state.kit.models.filter(isBare);
  const ordered = [...models.filter((m) => m.id === first), ...models.filter((m) => m.id !== first)];
  return Promise.all(ordered.map(async (m) => ({ id: m.id, mesh: m.mesh, files: await filesOf(m) })));
}

export const bareCount = (): number => useEditor.getState().state.kit.models.filter(isBare).length;

let asked: { key: string; sheets: readonly Sheet[]; answer: Promise<SeatsOnSheet[]> } | null = null;

/** Which bare models show a sheet of the kit, with the seats that their UVs give them. */
export function modelsOnSheets(): Promise<SeatsOnSheet[]> {
  const { kit } = useEditor.getState().state;
  const key = kit.models
    .filter(isBare)
    .map((m) => `${m.id} ${m.mesh}`)
    .join();
  // Each of many reports asks the same.
  if (asked?.key === key && asked.sheets === kit.sheets) return asked.answer;
  const answer = bareModels('').then(async (models) => longWorker().seatsByPictures(models, kit, await pictureFiles(kit)));
  asked = { key, sheets: kit.sheets, answer };
  answer.catch(() => (asked = null));
  return answer;
}

/** What the picture of a model is made of; others that show the same one come along. */
export async function lookApart(id: string, tolerance: number): Promise<PictureApart | null> {
  const models = await bareModels(id);
  return models[0]?.id === id ? longWorker().takeApart(models, tolerance) : null;
}

const faceStartOf = (mesh: string) => useEditor.getState().meshes[mesh]!.mesh.faceStart;
const modelIn = ({ kit }: KitState, id: string) => kit.models.find((m) => m.id === id);

/** Seats models on the sheets that their pictures show, as one edit. */
export function seatOnSheets(found: readonly SeatsOnSheet[]): void {
  if (refusedAsReadOnly()) return;
  try {
    const { state } = useEditor.getState();
    const edits = found.flatMap(({ id, sheet, seats }): Edit[] => {
      const model = modelIn(state, id);
      // The model may have another mesh, or colors, by now.
      if (!model || !isBare(model) || model.faces !== seats.cell.length || !state.kit.sheets.some((s) => s.id === sheet)) return [];
      return [seatByUvs(state, id, sheet, faceStartOf(model.mesh), seats)].filter((e) => e !== null);
    });
    const label = edits.length === 1 ? 'Seat a model by its picture' : `Seat ${edits.length} models by their pictures`;
    if (edits.length && dispatch(edits.length > 1 ? group(label, edits) : edits[0]!)) announce(`${count(edits.length, 'model')} seated`);
  } catch (error) {
    notifyError(error);
  }
}

/** A picture becomes a sheet of what faces show of it, and the models that show it sit on that; one edit. */
export async function adoptApart({ picture, apart, models }: PictureApart): Promise<void> {
  if (refusedAsReadOnly()) return;
  const isNow = kitMoment();
  try {
    let art = '';
    if (picture.png) {
      art = await keepBlob(picture.png);
      keepPicture(art, picture.png, await longWorker().decodePicture(picture.name, picture.png));
    }
    if (!isNow()) return;
    const { state } = useEditor.getState();
    const showing = models.map(({ id, faces }) => {
      const model = modelIn(state, id);
      return model && isBare(model) ? { id, faces, faceStart: faceStartOf(model.mesh) } : null;
    });
    if (!showing.some((m) => m)) return;
    const { edit, sheet } = apartSheet(state, { ...picture, name: stemOf(picture.name), art }, apart, showing);
    if (dispatch(edit)) announce(`${sheet.name} is a sheet of the kit`);
  } catch (error) {
    notifyError(error);
  }
}

/** What a sheet of a picture taken apart would be, beside the picture. */
export interface ApartSheet {
  width: number;
  height: number;
  /** Of the sheet's file. */
  bytes: number;
}

/** The sheet that would be made, and the size of its file. Throws where a limit is passed. */
export async function sheetOfApart({ picture, apart }: PictureApart): Promise<ApartSheet> {
  const { sheet } = apartSheet(useEditor.getState().state, { ...picture, art: 'picture' }, apart, []);
  const files = picture.png ? [{ address: 'picture', bytes: picture.png }] : [];
  const [encoded] = await longWorker().encodeSheets([sheet], files);
  return { width: sheet.width, height: sheet.height, bytes: encoded!.bytes.length };
}
