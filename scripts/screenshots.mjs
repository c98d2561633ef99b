// Takes the pictures of the main views from the demo kit: build and start the application first, then `npm
// run screenshots`.
import { existsSync } from 'node:fs';
import { chromium } from '@playwright/test';
import { takeFaces } from '../src/core/shapes/mesh/build.ts';
import { encodePng } from '../src/core/ground/pictures/png.ts';
import { caskObj, staves } from './demo-kit/cask.ts';
import { objText } from './demo-kit/large.ts';
import { landingJetty } from './demo-kit/models.ts';
import { browserPaths } from './prepare.mjs';

const address = process.env.ADDRESS ?? 'http://localhost:3000';
const browser = await chromium.launch({
  executablePath: browserPaths.find((p) => existsSync(p)),
  args: ['--no-sandbox', '--use-gl=angle', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist'],
});
// Pictures are for eyes, so lines are smoothed as on ordinary hardware.
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
await context.addInitScript(() => Object.defineProperty(navigator, 'webdriver', { get: () => false }));
const page = await context.newPage();
const shot = async (name) => {
  await page.waitForTimeout(1500);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
};
const viewport = page.getByRole('application');
const clickAt = async (x, y) => {
  const box = await viewport.boundingBox();
  await viewport.click({ position: { x: box.width * x, y: box.height * y } });
};

await page.goto(address);
await page.getByRole('button', { name: /Open the demo kit/ }).waitFor();
await page.getByRole('button', { name: /Open the demo kit/ }).click();
await viewport.waitFor();
await page.waitForTimeout(2500);
await page.keyboard.press('a');
await page.keyboard.press('c');
await clickAt(0.52, 0.56);
await page.mouse.move(640, 700);
await shot('color');
await page.keyboard.press('Escape');

// Windows on all walls of the tower, lit before the click that stamps and colors them.
await page.getByRole('button', { name: /^lichen, in shade/ }).click();
for (const key of ['Shift+A', 's', 'p', 'q']) await page.keyboard.press(key);
for (const [word, metres] of [
  [/^How wide/, '0.6'],
  [/^How high/, '1.1'],
]) {
  await page.getByRole('button', { name: word }).click();
  await page.getByRole('spinbutton').fill(metres);
  await page.keyboard.press('Escape');
}
{
  const box = await viewport.boundingBox();
  await page.mouse.move(box.x + box.width * 0.5, box.y + box.height * 0.71);
  await page.mouse.move(box.x + box.width * 0.501, box.y + box.height * 0.71);
}
await page.evaluate(() => document.activeElement.blur());
await page.getByText('would be cut').waitFor();
await shot('color-cut');
await page.keyboard.press('q');
await page.keyboard.press('Shift+A');

await page.getByRole('button', { name: 'Proposals' }).click();
await page.getByRole('button', { name: /By present color/ }).click();
await page.keyboard.press('y');
{
  const box = await viewport.boundingBox();
  await page.mouse.move(box.x + box.width * 0.42, box.y + box.height * 0.35);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.58, box.y + box.height * 0.52, { steps: 4 });
  await page.mouse.up();
}
await page.getByText('take them too').waitFor();
await page.mouse.move(640, 700);
await shot('color-pick');
await page.keyboard.press('Escape');
await page.keyboard.press('y');
await page.keyboard.press('y');
await page.keyboard.press('y');
await page.keyboard.press('Control+z');

// The jetty after a change outside: without its ladder, and with a crate set down.
{
  const shape = landingJetty();
  shape.as('crate', () => shape.at({ move: [0.4, 1.6, 2] }, () => shape.box(0.8, 0.8, 0.8)));
  const whole = shape.mesh();
  const kept = shape.roles.flatMap((role, f) => (role === 'ladder' ? [] : [f]));
  const changed = takeFaces(whole, Uint32Array.from(kept));
  await page.getByRole('button', { name: /^Landing jetty/ }).click();
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Actions for Landing jetty' }).click();
  await page.getByRole('menuitem', { name: 'Read its file again' }).click();
  await (await choosing).setFiles({ name: 'landing-jetty.obj', mimeType: 'model/obj', buffer: Buffer.from(objText(changed)) });
  await page.getByRole('region', { name: 'Landing jetty was read again' }).waitFor();
  await page.getByRole('button', { name: /^pick 6 faces/ }).click();
  await page.mouse.move(640, 700);
  await shot('color-read-again');
  await page.getByRole('region', { name: 'Landing jetty was read again' }).getByRole('button', { name: 'Close' }).click();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
}

await page
  .getByRole('button', { name: /Channel buoy/ })
  .first()
  .click();
await page.getByRole('button', { name: /^Ramp Band/ }).click();
await page.getByRole('slider', { name: 'Cool shade' }).fill('30');
await page.getByRole('button', { name: 'Close' }).click();

await page
  .getByRole('button', { name: /Light tower/ })
  .first()
  .click();
await page.keyboard.press('Shift+U');
await page.mouse.move(640, 700);
await shot('color-variants');
await page.keyboard.press('Escape');

await page.getByRole('link', { name: 'Palette', exact: true }).click();
await page.getByRole('option', { name: /^band, lit/ }).click();
await page.mouse.move(640, 120);
await shot('palette');
await page.getByRole('button', { name: 'Plan colors' }).click();
await page.getByLabel('Roles', { exact: true }).fill('sail, rope 2, brass, tar 1, lichen, wet sand, gribble, rusty iron');
await shot('palette-plan');
await page.getByRole('region', { name: 'Plan colors from a list' }).getByRole('button', { name: 'Close' }).click();
await page.getByRole('button', { name: 'Dusk' }).click();
await page.getByRole('list', { name: 'Colors drawn' }).waitFor();
await page.getByRole('region', { name: 'Dusk' }).getByRole('button', { name: 'Close' }).click();
await page.getByRole('radio', { name: 'Line-up' }).click();
await page.getByRole('radio', { name: 'Use', exact: true }).click();
await page.waitForTimeout(2000);
await shot('palette-line-up');
await page.getByRole('radio', { name: 'Sheet', exact: true }).first().click();
await page.getByRole('link', { name: 'Color', exact: true }).click();
await viewport.waitFor();

// The tower along a gradient, by a line that is drawn on it.
await page
  .getByRole('button', { name: /^Light tower/ })
  .first()
  .click();
await page.getByRole('button', { name: /^slate, lit, \d/ }).click();
await page.getByRole('button', { name: 'Edit color' }).click();
await page.getByText('Gradient', { exact: true }).click();
await page.getByRole('button', { name: 'Close' }).first().click();
await page.keyboard.press('a');
await page.keyboard.press('Control+a');
await page.getByRole('button', { name: 'A drag: turns the view' }).click();
await page.getByRole('menuitemradio', { name: /along a line/ }).click();
{
  const box = await viewport.boundingBox();
  await page.mouse.move(box.x + box.width * 0.49, box.y + box.height * 0.4);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.51, box.y + box.height * 0.8, { steps: 4 });
  await page.mouse.up();
}
await page.getByRole('region', { name: 'Laid along a gradient' }).waitFor();
await page.mouse.move(640, 700);
await shot('color-gradient');
await page.getByRole('link', { name: 'Islands', exact: true }).click();
await page.waitForTimeout(2500);
// Others of the gradient lie over it.
await page
  .getByRole('button', { name: /^Island of/ })
  .first()
  .press('Enter');
await page.mouse.move(640, 25);
await page.locator('#viewport[aria-busy="false"]').waitFor();
await shot('islands');
await page.keyboard.press('Escape');

// The seal: its spots go over to its other side.
await page.getByRole('link', { name: 'Paint', exact: true }).click();
await page
  .getByRole('button', { name: /^Skerry seal/ })
  .first()
  .click();
await page.getByRole('application', { name: /^The art/ }).waitFor();
const phrase = page.getByLabel('What a press sets');
await page.getByRole('button', { name: /^slate, in shade, \d/ }).click();
await phrase.getByRole('button', { name: /^Mirrored/ }).click();
await page.getByRole('menuitemradio', { name: /^across x/ }).click();
await phrase.getByRole('button', { name: /^Texels across/ }).click();
await page.getByRole('slider').press('ArrowRight');
await page.keyboard.press('Escape');
await page.waitForTimeout(1500);
{
  const box = await page.getByRole('region', { name: 'Model', exact: true }).boundingBox();
  await page.mouse.move(box.x + box.width * 0.52, box.y + box.height * 0.62);
  await page.waitForTimeout(1200);
}
await shot('paint');
await phrase.getByRole('button', { name: /^Mirrored/ }).click();
await page.getByRole('menuitemradio', { name: /^nowhere/ }).click();
await page.getByRole('link', { name: 'Color', exact: true }).click();
await page.getByRole('application', { name: /^The art/ }).waitFor({ state: 'hidden' });
await viewport.waitFor();
await page
  .getByRole('button', { name: /^Light tower/ })
  .first()
  .click();
await page.waitForTimeout(1500);
await page.keyboard.press('Control+z');
await page.keyboard.press('Control+z');

await page.getByRole('button', { name: 'Actions for Keeper’s cottage' }).click();
await page.getByRole('menuitem', { name: 'Check the mesh' }).click();
await page.getByRole('article').waitFor();
await shot('gather-report');
await page.getByRole('link', { name: 'Proof', exact: true }).click();
await page.getByRole('list', { name: 'To look at' }).waitFor();
await page.getByRole('radio', { name: 'Whole kit' }).click();
await page.waitForTimeout(3000);
await page
  .getByRole('button', { name: /^Show me: 754 faces not yet colored/ })
  .first()
  .click();
await shot('proof');
await page.keyboard.press('Escape');
await page.getByRole('link', { name: 'Hand-off', exact: true }).click();
await page.getByRole('row', { name: /GPU vertices/ }).waitFor();
await page.waitForTimeout(2500);
await shot('hand-off');
await page.getByRole('radio', { name: 'Folders, by a plan' }).click();
await page.getByRole('button', { name: 'Download as a zip' }).click();
await page.getByRole('region', { name: 'What left' }).waitFor({ timeout: 60_000 });
await page.mouse.wheel(0, 60);
await page.waitForTimeout(1500);
await shot('hand-off-plan');
await page.getByRole('link', { name: 'Stage', exact: true }).click();
await viewport.waitFor();
await page.waitForTimeout(2500);
await page
  .getByRole('list', { name: 'Standing there' })
  .getByRole('button', { name: /^Fog bell/ })
  .click();
await page.getByRole('button', { name: /^Cues/ }).click();
await page.mouse.move(640, 120);
await shot('stage');
await page.getByRole('button', { name: 'Close cues' }).click();
await page.getByRole('button', { name: 'Play' }).click();
await page.waitForTimeout(1500);
await page.getByRole('button', { name: 'Click Fog bell' }).click();
await page.getByRole('button', { name: 'Go to Notice board' }).click();
await viewport.focus();
for (const [key, held] of [
  ['ArrowDown', 900],
  ['ArrowLeft', 200],
]) {
  await page.keyboard.down(key);
  await page.waitForTimeout(held);
  await page.keyboard.up(key);
}
await page.getByRole('button', { name: 'Click Notice board' }).click();
await page.getByRole('dialog').getByRole('button', { name: 'Salt-worn' }).hover();
await shot('stage-play');
await page.getByRole('dialog').getByRole('button', { name: 'Salt-worn' }).click();
await page.keyboard.press('Escape');
// A cask with a detailed picture, in four ways.
await page.getByRole('link', { name: 'Gather', exact: true }).click();
const octet = 'application/octet-stream';
await page.getByLabel('Bring in model files').setInputFiles([
  { name: 'Cask.obj', mimeType: octet, buffer: Buffer.from(caskObj()) },
  { name: 'cask.mtl', mimeType: octet, buffer: Buffer.from('newmtl staves\nmap_Kd staves.png\n') },
  { name: 'staves.png', mimeType: 'image/png', buffer: Buffer.from(encodePng(staves())) },
]);
await page.getByRole('article', { name: 'Report of Cask' }).waitFor();
await page.getByRole('link', { name: 'Paint', exact: true }).click();
await page.getByRole('button', { name: /^Cask/ }).first().click();
await page.getByRole('button', { name: 'Few colors, big texels' }).click();
await page
  .getByRole('region', { name: 'Way 4', exact: true })
  .getByText(/times smaller|Not smaller/)
  .waitFor({ timeout: 60_000 });
await page.waitForTimeout(1500);
await shot('paint-compare');
await page.getByRole('button', { name: 'Leave it as it is' }).click();
await page.keyboard.press('Control+z');
await page.waitForTimeout(1000);
await page.getByRole('link', { name: 'Oligochrome, all kits' }).click();
await page.getByRole('link', { name: /Open Brindle Skerry/ }).waitFor();
await shot('home');
await browser.close();
