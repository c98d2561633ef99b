import { WebIO } from '@gltf-transform/core';
import { KHRDracoMeshCompression } from '@gltf-transform/extensions';
import draco3d from 'draco3dgltf';
import { gridDocument } from '../tests/samples';
import { sampleWithThree } from '../tests/sampleWithThree';
import { dropFiles, boxesObj, bytesOf, colorAt, expect, file, openBoxes, pickAt, saved, tally, test, viewport, pointAway } from './kit';

async function dracoGlb(): Promise<Buffer> {
  const document = gridDocument(4, () => 0);
  // Sequential, so that the triangles of a quad still follow each other.
  document
    .createExtension(KHRDracoMeshCompression)
    .setRequired(true)
    .setEncoderOptions({ method: KHRDracoMeshCompression.EncoderMethod.SEQUENTIAL });
  const io = new WebIO()
    .registerExtensions([KHRDracoMeshCompression])
    .registerDependencies({ 'draco3d.encoder': await draco3d.createEncoderModule() });
  return Buffer.from(await io.writeBinary(document));
}

const ply = `ply
format ascii 1.0
element vertex 4
property float x
property float y
property float z
property uchar red
property uchar green
property uchar blue
element face 2
property list uchar int vertex_indices
end_header
0 0 0 200 60 40
1 0 0 200 60 40
1 1 0 200 60 40
0 1 0 40 60 200
3 0 1 2
3 0 2 3
`;

test('several files of every kind dropped together, compressed ones too; triangles come as quads or stay', async ({ page }) => {
  await openBoxes(page, 1);
  const files = [
    { name: 'jetty.glb', buffer: await dracoGlb() },
    { name: 'flag.ply', buffer: Buffer.from(ply) },
    { name: 'boxes.obj', buffer: Buffer.from(boxesObj(2, () => 'tar')) },
    { name: 'boxes.mtl', buffer: Buffer.from('newmtl tar\nKd 0.1 0.1 0.12\n') },
  ];
  await dropFiles(page, files, () => expect(page.getByText('Drop models here')).toBeVisible());

  const jetty = page.getByRole('article', { name: 'Report of jetty' });
  await expect(jetty).toContainText('16 quads mended from triangles');
  await expect(page.getByRole('article', { name: 'Report of boxes 2' })).toContainText('1material');
  await expect(page.getByText('4 models')).toBeVisible();

  // The vertex colors of the flag, grouped to as many colors as the artist wants.
  const flag = page.getByRole('article', { name: 'Report of flag' }).getByRole('region', { name: 'Its vertex colors' });
  await expect(flag).toContainText('Error at most 0.000');
  const before = Number(/(\d+) uncolored/.exec((await tally(page).textContent())!)![1]);
  await flag.getByRole('button', { name: 'Take these colors' }).click();
  await expect(tally(page)).toContainText(`${before - 1} uncolored`);

  // Declined mending: the triangles stay.
  await jetty.getByRole('button', { name: 'Keep the triangles' }).click();
  await expect(jetty).toContainText('32faces');
  await expect(jetty).toContainText('The file holds only triangles.');

  // Once it is colored, it stays so when its quads are mended after all.
  const bare = async () => Number(/([\d,]+) uncolored/.exec((await tally(page).textContent())!)?.[1] ?? 0);
  const start = await bare();
  await page.getByRole('link', { name: 'Color', exact: true }).click();
  await viewport(page).focus();
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  await expect.poll(bare).toBe(start - 32);
  await page.getByRole('link', { name: 'Gather' }).click();
  await jetty.getByRole('button', { name: 'Mend quads' }).click();
  await expect(jetty).toBeHidden();
  await expect.poll(bare).toBe(start - 32);
  await page.getByRole('link', { name: 'Color', exact: true }).click();
  await expect(page.getByRole('button', { name: /^moss, 16 faces/ })).toBeVisible();
});

test('reading can be cancelled, and leaves nothing behind', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Begin an empty kit' }).click();
  const chooser = page.getByLabel('Bring in model files');
  await expect(chooser).toBeAttached();
  // The worker's script is held back, so that there is something to cancel.
  await page.route(/worker|\.js$/, async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 3000));
    await route.continue();
  });
  await chooser.setInputFiles([file('boxes.obj', boxesObj(2))]);
  await page.getByRole('dialog', { name: 'Reading files' }).getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('dialog', { name: 'Reading files' })).toBeHidden();
  await expect(page.getByText('0 models')).toBeVisible();
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await chooser.setInputFiles([file('boxes.obj', boxesObj(2))]);
  await expect(page.getByRole('article', { name: 'Report of boxes' })).toBeVisible();
});

test('pointing shows before anything is done: faces of a cell, a color on the pick, the cell of a face', async ({ page }) => {
  await openBoxes(page, 2);
  await page.keyboard.press('w');
  await pickAt(page, 0.2, 0.5, 6);
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  const away = () => pointAway(page);
  const shown = (x: number) => colorAt(page, x, 0.45);
  const hex = async (role: RegExp) => /#[0-9a-f]{6}/.exec((await page.getByRole('button', { name: role }).getAttribute('title'))!)![0];
  const moss = await hex(/^moss, 6/);
  await away();
  await expect.poll(() => shown(0.15)).toBe(moss);

  // With faces picked, pointing at a cell shows them in it, and leaves no trace.
  await pickAt(page, 0.8, 0.5, 6);
  await page.getByRole('button', { name: /^slate, 0 faces/ }).hover();
  await expect.poll(() => shown(0.75)).toBe(await hex(/^slate, 0/));
  await page.keyboard.press('Escape');
  await away();
  await expect.poll(() => shown(0.75)).not.toBe(await hex(/^slate, 0/));

  // Without a pick, pointing at a cell lights its faces and lets the others fade; it says how many.
  const bare = await shown(0.75);
  await page.getByRole('button', { name: /^moss, 6/ }).hover();
  await expect.poll(() => shown(0.75)).not.toBe(bare);
  expect(await shown(0.15)).toBe(moss);
  await expect(page.getByRole('group', { name: 'This color' })).toContainText('6 faces, 1 model');

  // Pointing at a face names its cell.
  const box = (await viewport(page).boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.2, box.y + box.height * 0.5);
  await expect(page.getByRole('group', { name: 'This color' })).toContainText('moss');
  await page.keyboard.press('t');
  await expect(page.getByRole('button', { name: /^moss, 6/ })).toHaveAttribute('aria-pressed', 'true');
  await saved(page);
});

test('the whole kit leaves as OBJ and as its sheet', async ({ page }) => {
  await openBoxes(page, 1);
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^rust, 0 faces/ }).click();
  await page.getByRole('link', { name: 'Hand-off' }).click();
  const account = page.getByRole('region', { name: 'Before and after' });
  await expect(account.getByRole('row', { name: /Materials/ })).toContainText('1');
  const [obj] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download OBJ' }).click()]);
  expect(obj.suggestedFilename()).toBe('New-kit-obj.zip');
  const { unzipSync, strFromU8 } = await import('fflate');
  const entries = unzipSync(await bytesOf(obj));
  expect(Object.keys(entries)).toEqual(['New-kit.mtl', 'New-kit.obj', 'sheet.png']);
  expect(strFromU8(entries['New-kit.obj']!)).toContain('usemtl Sheet');
  const [sheet] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download Sheet' }).click()]);
  expect(await bytesOf(sheet)).toEqual(entries['sheet.png']);
});

test('a palette file lends its colors: tried on the models, taken one to one, or added; and the sheet’s leave as one', async ({ page }) => {
  await openBoxes(page, 1);
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^rust, in shade, 0 faces/ }).click();
  await pointAway(page);
  const shown = () => colorAt(page, 0.5, 0.45);
  const before = await shown();
  const chooser = page.getByLabel('Open a palette file');
  await chooser.setInputFiles([file('wreck.hex', 'a0b0c0\nrust and rope\n')]);
  await expect(page.getByText('wreck.hex, line 2: “rust and rope” is no color in hex digits.')).toBeVisible();

  await chooser.setInputFiles([
    file('storm.gpl', 'GIMP Palette\nName: Storm\n#\n58 74 92\tdeep\n120 140 160\tswell\n58 74 92\tdeep too\n'),
  ]);
  const panel = page.getByRole('dialog', { name: 'Storm' });
  await expect(panel).toContainText('2 colors that the sheet does not have yet');
  await panel.getByRole('radio', { name: /Replace/ }).click();
  await expect.poll(shown).toBe('#3a4a5c');
  await panel.getByRole('button', { name: 'Leave it' }).click();
  await expect.poll(shown).toBe(before);

  await chooser.setInputFiles([file('storm.gpl', 'GIMP Palette\nName: Storm\n#\n58 74 92\tdeep\n120 140 160\tswell\n')]);
  await panel.getByRole('radio', { name: /Replace/ }).click();
  await panel.getByRole('button', { name: 'rust, in shade becomes #3a4a5c' }).click();
  await page.getByRole('radiogroup', { name: 'What rust, in shade becomes' }).getByRole('radio', { name: '#788ca0' }).click();
  await panel.getByRole('button', { name: 'Replace them' }).click();
  await expect.poll(shown).toBe('#788ca0');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(shown).toBe(before);

  await chooser.setInputFiles([file('storm.gpl', 'GIMP Palette\nName: Storm\n#\n58 74 92\tdeep\n120 140 160\tswell\n')]);
  await panel.getByRole('button', { name: 'Add them' }).click();
  await expect(page.getByRole('button', { name: /^swell, 0 faces/ })).toBeVisible();

  await page.getByRole('link', { name: 'Hand-off' }).click();
  await page.getByRole('combobox', { name: 'Kind of palette file' }).click();
  await page.getByRole('option', { name: 'CSS custom properties' }).click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download Palette' }).click()]);
  expect(download.suggestedFilename()).toBe('sheet.css');
  const css = Buffer.from(await bytesOf(download)).toString();
  expect(css).toContain(`--rust-in-shade: ${before};`);
  expect(css).toContain('--swell: #788ca0;');
});

test('the sheet shrinks to what it holds, and no pixel of the model changes', async ({ page }) => {
  await openBoxes(page, 2);
  await page.keyboard.press('w');
  await pickAt(page, 0.2, 0.5, 6);
  await page.getByRole('button', { name: /^moss, 0 faces/ }).click();
  await pickAt(page, 0.8, 0.5, 6);
  await page.getByRole('button', { name: /^slate, 0 faces/ }).click();
  await pointAway(page);
  const shown = async () => [await colorAt(page, 0.15, 0.45), await colorAt(page, 0.75, 0.45)];
  const texels = async () => {
    await page.getByRole('link', { name: 'Hand-off' }).click();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download GLB' }).click()]);
    const { triangles } = await sampleWithThree(await bytesOf(download));
    await page.getByRole('link', { name: 'Color', exact: true }).click();
    return triangles.map((t) => String(t.color));
  };
  const [before, exported] = [await shown(), await texels()];
  await page.getByRole('button', { name: '16 × 16 texels: lay out anew' }).click();
  const panel = page.getByRole('dialog', { name: 'Lay out the sheet anew' });
  await expect(panel).toContainText('then 4 × 4 texels');
  await panel.getByLabel('Leave out 12 colors that no face uses').check();
  await expect(panel).toContainText('then 2 × 2 texels');
  await expect(panel).toContainText(/PNG \d+ B, then \d+ B/);
  await panel.getByRole('button', { name: 'Lay it out so' }).click();
  await expect(page.getByRole('button', { name: '2 × 2 texels: lay out anew' })).toBeVisible();
  await page.getByRole('button', { name: 'Perspective' }).click();
  await page.getByRole('button', { name: 'Front' }).click();
  expect(await texels()).toEqual(exported);
  await page.getByRole('button', { name: 'Front' }).click();
  await pointAway(page);
  await expect.poll(shown).toEqual(before);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: '16 × 16 texels: lay out anew' })).toBeVisible();
});
