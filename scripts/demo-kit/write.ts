// Writes the demo kit's archive, the decoders' binaries and the pictures of the help to where the application serves them.
import { copyFileSync, mkdirSync, writeFileSync } from 'node:fs';
import { archiveExtension } from '@/core/kit/contents';
import { writeArchive } from '@/data/archive';
import { encodePng } from '@/core/ground/pictures/png';
import { demoKit } from './kit';
import { lineUp } from './lineUp';

mkdirSync('public/demo', { recursive: true });
mkdirSync('public/codecs', { recursive: true });
const kit = await demoKit();
const { state, blobs } = kit;
writeFileSync(`public/demo/brindle-skerry${archiveExtension}`, writeArchive(state, blobs));
writeFileSync('public/demo/line-up.png', encodePng(lineUp(kit, 2100, 430)));
copyFileSync('node_modules/draco3dgltf/draco_decoder_gltf.wasm', 'public/codecs/draco_decoder_gltf.wasm');
copyFileSync('node_modules/@cf-wasm/photon/dist/lib/photon_rs_bg.wasm', 'public/codecs/pictures.wasm');
mkdirSync('public/help', { recursive: true });
for (const name of ['gather-report', 'palette-plan', 'color', 'color-gradient', 'proof', 'hand-off-plan'])
  copyFileSync(`docs/screenshots/${name}.png`, `public/help/${name}.png`);
if (process.argv.includes('--list')) for (const m of state.kit.models) console.log(`${m.name}: ${m.faces} faces`);
