/**
 * The rooms of core, by district, from the ground up: the districts are read in the order of the work, and each opens
 * with a README that says what it is and what its rooms hold. '.' are the files of the district itself.
 */
export const districts = {
  ground: ['.', 'bytes', 'color', 'pictures', 'palettes'],
  shapes: ['mesh', 'view', 'pick', 'check', 'cut', 'dissolve'],
  kit: ['laying', '.', 'colorings', 'edit'],
  sheet: ['.', 'palette', 'ramp', 'plan', 'picture', 'paint', 'reduce'],
  faces: ['regions', 'seat', 'adopt', 'carry', 'variants'],
  islands: ['unwrap', '.'],
  files: ['bake', 'leaving', 'gltf', 'budget', 'formats', 'handoff', 'takeIn'],
  judging: ['judge', 'proof'],
  stage: ['.'],
};

/** A room imports from itself and from those before it, so that no two import each other. */
const rooms = {
  core: Object.entries(districts).flatMap(([district, own]) => own.map((room) => (room === '.' ? district : `${district}/${room}`))),
  state: ['told', 'chosen', 'kit', 'color', 'pick', 'cut', 'stage', 'laying', 'sheet', 'islands', 'paint', 'proof', 'files', 'shown'],
};

/**
 * The room that a file stands in: its layer, its name, and its height in the list, -1 where it is not named there.
 * Nothing for layers without rooms. Folders inside a room belong to it; those inside a district are rooms.
 */
export function roomOf(file) {
  const [, layer, below] = /(?:^|\/)src\/(core|state)\/(.+)\/[^/]+$/.exec(file.replaceAll('\\', '/')) ?? [];
  if (!layer) return undefined;
  const name = below
    .split('/')
    .slice(0, layer === 'core' ? 2 : 1)
    .join('/');
  return { layer, name, height: rooms[layer].indexOf(name) };
}
