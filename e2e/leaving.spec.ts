import type { Page } from '@playwright/test';
import { Node } from '@gltf-transform/core';
import { costOfGltf } from '../src/core/files/budget/costOfGltf';
import { openGltf } from '../src/core/files/gltf/openGltf';
import { gridDocument, skinnedDocument, toGlb } from '../tests/samples';
import { bytesOf, expect, openBoxes, openModel, tally, test, viewport } from './kit';

async function colorAllAndGoToHandOff(page: Page): Promise<void> {
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^rust, 0 faces/ }).click();
  await page.getByRole('link', { name: 'Hand-off' }).click();
}

test('what Hand-off and the tally say is what leaves: joined or shared, one side or both', async ({ page }) => {
  // A wheel shown four times, once mirrored, and once by a node that an animation turns.
  const document = gridDocument(3);
  const [mesh] = document.getRoot().listMeshes();
  const scene = document.getRoot().getDefaultScene()!;
  const copies = [4, 8, 12].map((x, i) => document.createNode(`wheel ${i}`).setMesh(mesh!).setTranslation([x, 0, 0]));
  for (const node of copies) scene.addChild(node);
  copies[0]!.setScale([-1, 1, 1]);
  const [buffer] = document.getRoot().listBuffers();
  const numbers = (type: 'SCALAR' | 'VEC3', array: Float32Array<ArrayBuffer>) =>
    document.createAccessor().setType(type).setArray(array).setBuffer(buffer!);
  const sampler = document
    .createAnimationSampler()
    .setInput(numbers('SCALAR', Float32Array.of(0, 1)))
    .setOutput(numbers('VEC3', new Float32Array(6)));
  document
    .createAnimation('turn')
    .addSampler(sampler)
    .addChannel(document.createAnimationChannel().setTargetNode(copies[2]!).setTargetPath('translation').setSampler(sampler));
  const bytes = await toGlb(document);
  await openModel(page, 'wheels.glb', bytes);
  await colorAllAndGoToHandOff(page);
  const account = page.getByRole('region', { name: 'Before and after' });
  const cells = async (row: string) =>
    (await account.getByRole('row', { name: row }).getByRole('cell').allTextContents()).map((t) => t.replaceAll(',', ''));
  const leaving = async () => {
    await expect(account).toHaveAttribute('aria-busy', 'false');
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download GLB' }).click()]);
    const glb = await bytesOf(download);
    const { document: left } = await openGltf('a.glb', glb);
    return { cost: costOfGltf(left), size: glb.length, root: left.getRoot() };
  };
  const came = costOfGltf((await openGltf('a.glb', bytes)).document);
  // Wheels are meant to turn: they stay nodes of their own, and what that costs is said. Joined, they are listed as gone.
  const kept = await leaving();
  const named = account.getByRole('status', { name: 'Nodes with names' });
  expect(kept.root.listNodes().map((n) => n.getName())).toEqual(expect.arrayContaining(['wheel 0', 'wheel 1', 'wheel 2']));
  await expect(named).toContainText('2 draw calls more');
  await page.getByRole('combobox', { name: 'Nodes with names' }).click();
  await page.getByRole('option', { name: 'Named nodes joined too' }).click();
  await expect(named).toBeHidden();
  await expect(account).toContainText('3 nodes by name, joined with others for fewer draw calls: Jetty, wheel 0, wheel 1');
  expect((await leaving()).cost.drawCalls).toBe(kept.cost.drawCalls - 2);
  for (const [way, column] of [
    ['Fewest draw calls', 1],
    ['Shared meshes kept', 2],
  ] as const) {
    await page.getByRole('radio', { name: way }).click();
    const { cost, size } = await leaving();
    expect(cost.drawCalls).toBe(column === 1 ? 2 : 4);
    for (const [row, before, after] of [
      ['Draw calls', came.drawCalls, cost.drawCalls],
      ['GPU vertices', came.gpuVertices, cost.gpuVertices],
      ['Materials', came.materials, cost.materials],
    ] as const) {
      const shown = await cells(row);
      expect([shown[0], shown[column]]).toEqual([String(before), String(after)]);
    }
    expect((await cells('Texture bytes'))[column]).toBe(`${cost.textureBytes} B`);
    const files = await cells('File bytes');
    expect([files[0], files[column]]).toEqual([kilobytes(bytes.length), kilobytes(size)]);
    await expect(tally(page)).toContainText(`${cost.drawCalls} draw calls`);
  }
  expect((await leaving()).root.listMaterials().map((m) => m.getDoubleSided())).toEqual([false]);
  await page.getByRole('radio', { name: 'from both sides' }).click();
  expect((await leaving()).root.listMaterials().map((m) => m.getDoubleSided())).toEqual([true]);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('radio', { name: 'as they came' })).toBeChecked();
});

const kilobytes = (n: number) => (n < 1000 ? `${n} B` : `${(n / 1000).toFixed(n < 10_000 ? 1 : 0)} KB`);

test('the model keeps its own view; named sides are true, by keys too', async ({ page }) => {
  await openBoxes(page, 1);
  const pressed = (name: string) => page.getByRole('button', { name, exact: true, pressed: true });
  await expect(pressed('Front')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Perspective', pressed: false })).toBeVisible();
  await page.keyboard.press('Shift+Digit5');
  await expect(pressed('Top')).toBeVisible();
  await page.getByRole('button', { name: 'Actions for boxes' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  await expect(page.getByRole('application', { name: /boxes copy/ })).toBeVisible();
  await expect(pressed('Free')).toBeVisible();
  await page.getByRole('button', { name: /^boxes 6 faces/ }).click();
  await expect(pressed('Top')).toBeVisible();
  await page.getByRole('link', { name: 'Palette' }).click();
  await page.getByRole('link', { name: 'Color', exact: true }).click();
  await expect(pressed('Top')).toBeVisible();
  // Turned by hand it is the top no more, and perspective comes back with the free view.
  // The canvas comes up a moment after its place.
  await expect(async () => {
    await viewport(page).press('Shift+ArrowDown');
    await expect(pressed('Top')).toBeHidden({ timeout: 500 });
  }).toPass();
  await page.keyboard.press('Shift+Digit7');
  await page.getByRole('button', { name: 'Perspective' }).click();
  await expect(pressed('Perspective')).toBeVisible();
  await page.keyboard.press('Shift+Digit1');
  await expect(pressed('Perspective')).toBeHidden();
  await page.keyboard.press('Shift+Digit7');
  await expect(pressed('Perspective')).toBeVisible();
  // A press between the words of a bar goes to the model beneath; a panel beside it covers nothing.
  await page.getByRole('button', { name: /^rust, 0 faces/ }).dblclick();
  const [panel, side] = [page.getByRole('dialog', { name: 'Edit color' }), page.getByRole('button', { name: 'Frame' })];
  const [a, b] = [(await panel.boundingBox())!, (await side.boundingBox())!];
  expect(b.x + b.width).toBeLessThanOrEqual(a.x);
});

test('a model that was framed is framed in a view of another shape too, one that was come near to keeps its eye', async ({ page }) => {
  await openBoxes(page, 2);
  const eye = () => page.evaluate(() => (JSON.parse(localStorage.getItem('oligochrome eyes') ?? '[]') as [string, { distance: number }][]).at(-1)?.[1].distance ?? 0); // prettier-ignore
  const to = (view: string) => page.getByRole('link', { name: view, exact: true }).click();
  await expect.poll(eye).toBeGreaterThan(0);
  const near = await eye();
  await to('Islands');
  await expect.poll(eye).toBeGreaterThan(near * 1.2);
  await to('Color');
  await expect.poll(eye).toBeLessThan(near * 1.1);
  await viewport(page).press('PageUp');
  await expect.poll(eye).toBeLessThan(near * 0.9);
  const nearer = await eye();
  await to('Islands');
  // Once the view stands, one step nearer goes on from where the eye was.
  await expect(async () => {
    await viewport(page).press('PageUp', { timeout: 2000 });
    await expect.poll(eye, { timeout: 5000 }).not.toBe(nearer);
  }).toPass();
  expect(await eye()).toBeCloseTo(nearer * 0.8, 3);
});

test('a rigged file goes in and out with its skeleton, weights and animation equal', async ({ page }) => {
  const bytes = await toGlb(skinnedDocument());
  await openModel(page, 'board.glb', bytes);
  await colorAllAndGoToHandOff(page);
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Download GLB' }).click()]);
  const [before, after] = [bytes, await bytesOf(download)].map(async (glb) => (await openGltf('a.glb', glb)).document.getRoot());
  const said = async (root: NonNullable<typeof before>) => {
    const [animation] = (await root).listAnimations();
    const [skin] = (await root).listSkins();
    const primitive = skin!.listParents().flatMap((p) => (p instanceof Node ? p.getMesh()!.listPrimitives() : []))[0]!;
    const weights = new Set<string>();
    const rows = ['POSITION', 'JOINTS_0', 'WEIGHTS_0'].map((name) => primitive.getAttribute(name)!);
    for (let v = 0; v < rows[0]!.getCount(); v++) weights.add(rows.map((a) => a.getElement(v, []).join()).join(' '));
    return {
      channels: animation!.listChannels().map((c) => [c.getTargetNode()!.getName(), c.getTargetPath()]),
      keys: animation!.listSamplers().map((s) => [...s.getInput()!.getArray()!, ...s.getOutput()!.getArray()!]),
      joints: skin!.listJoints().map((j) => [j.getName(), ...j.getTranslation()]),
      bind: [...skin!.getInverseBindMatrices()!.getArray()!],
      weights: [...weights].sort(),
    };
  };
  expect(await said(after!)).toEqual(await said(before!));
  // Colored all the same.
  expect((await after!).listMaterials().map((m) => m.getBaseColorTexture() !== null)).toEqual([true]);
});
