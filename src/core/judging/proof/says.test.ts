import { expect, it } from 'vitest';
import { checks, repairFor, sayFinding } from './checks';
import { finding } from './finding';

/** What each check says of two faces (or cells, edges, names …), and of one. */
const said: [check: string, detail: string, two: string, one: string][] = [
  ['uncolored', '', '2 faces not yet colored', '1 face not yet colored'],
  ['half-colored', '', '2 faces without the color of their mirrored twin', '1 face without the color of their mirrored twin'],
  ['region-without-color', 'lid', '2 faces of the region lid without a color', '1 face of the region lid without a color'],
  ['cut-away', '', '2 faces with texels that are cut away', '1 face with texels that are cut away'],
  ['leftover', '9', '2 faces still of a color that 9 others gave up', '1 face still of a color that 9 others gave up'],
  ['near-border', '', '2 faces too near to the border of their art', '1 face too near to the border of their art'],
  ['shared-texels', '', '2 faces of islands that share texels', '1 face of islands that share texels'],
  ['stretched', '', '2 faces stretched on their art', '1 face stretched on their art'],
  [
    'merging',
    '96',
    '2 faces of a color that runs into its neighbour at 96 pixels',
    '1 face of a color that runs into its neighbour at 96 pixels',
  ],
  ['vanishing', '#a0b0c0', '2 faces of an outline that vanishes before #a0b0c0', '1 face of an outline that vanishes before #a0b0c0'],
  ['bleeding', '3', '2 colors changed by their neighbours up to mip level 3', '1 color changed by their neighbours up to mip level 3'],
  ['twins', '', 'Two colors that hardly differ', 'Two colors that hardly differ'],
  ['extreme', '', '2 colors at pure black or white', '1 color at pure black or white'],
  ['unused', '', '2 colors that no face uses', '1 color that no face uses'],
  ['see-through', '', '2 colors that light goes through', '1 color that light goes through'],
  [
    'too-large',
    '8 × 8',
    'The sheet is larger than its colors need: they fit on 8 × 8 texels',
    'The sheet is larger than its colors need: they fit on 8 × 8 texels',
  ],
  ['odd-size', '', '2 sides of the sheet no power of two', '1 side of the sheet no power of two'],
  ['bare-in-variant', 'Salt', '2 faces uncolored in Salt alone', '1 face uncolored in Salt alone'],
  ['merging-in-variant', 'Salt', '2 colors that hardly differ in Salt', '1 color that hardly differ in Salt'],
  ['idle-variant', 'Salt', '2 variants in which nothing differs: Salt', '1 variant in which nothing differs: Salt'],
  ['like-variants', 'Salt', '2 variants that look alike: Salt', '1 variant that look alike: Salt'],
  ['flipped', '', '2 faces turned inside out', '1 face turned inside out'],
  ['degenerate', '', '2 faces without area', '1 face without area'],
  ['duplicate', '', '2 faces lying on another one', '1 face lying on another one'],
  ['open-border', '', '2 open edges', '1 open edge'],
  ['lone-part', '', '2 faces of parts that float alone', '1 face of parts that float alone'],
  ['unseen', '', '2 faces seen from no side', '1 face seen from no side'],
  ['materials', '1', '2 materials, where 1 is planned', '1 material, where 1 is planned'],
  ['names', 'Buoy', '2 models whose files would have one name: Buoy', '1 model whose files would have one name: Buoy'],
  ['refused-names', 'nul', '2 names that some file systems refuse: nul', '1 name that some file systems refuse: nul'],
];

it('says each thing in words, for one and for several, in the order in which they are shown', () => {
  const of = (check: string, n: number, detail: string) =>
    finding(check, { faces: new Uint32Array(n), cells: Array.from({ length: n }, (_, i) => i), detail });
  expect([...checks.keys()].map((check) => [check, said.find((s) => s[0] === check)?.[1]])).toEqual(
    said.map(([check, detail]) => [check, detail]),
  );
  for (const [check, detail, two, one] of said)
    expect([sayFinding(of(check, 2, detail)), sayFinding(of(check, 1, detail))]).toEqual([two, one]);
  expect(sayFinding({ ...of('materials', 9, '4') })).toBe('9 materials, where 4 are planned');
  expect(sayFinding(finding('leftover', { count: 3, cells: [1], detail: '#a04030 #205030' }))).toBe(
    '3 texels still of #a04030, which became #205030',
  );
  expect(sayFinding({ ...of('stretched', 2, ''), variant: 'Salt' })).toBe('2 faces stretched on their art, in Salt');
});

it('offers one step, or the view in which it is seen to; in a variant alone, and for texels left behind, no step', () => {
  for (const [id, { repair, see, why, good }] of checks) {
    expect([id, repair === undefined]).toEqual([id, see !== undefined]);
    expect([why.endsWith('.'), good !== '']).toEqual([true, true]);
    const found = finding(id, { faces: Uint32Array.of(0) });
    expect(repairFor(found)).toBe(repair);
    expect(repairFor({ ...found, variant: 'Salt' })).toBeUndefined();
  }
  expect(repairFor(finding('leftover', { cells: [1], count: 2 }))).toBeUndefined();
});
