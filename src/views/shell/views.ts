/** A view of a kit: its word in the bar, other words by which it is looked for. */
interface View {
  word: string;
  words: string;
  /** Its sentence says which variant is changed; elsewhere the kit is looked at as a whole. */
  ofVariants?: true;
}

/** All views of a kit by their place in the address, in the order of the work. */
export const views = {
  gather: { word: 'Gather', words: 'import bring in models files' },
  palette: { word: 'Palette', words: 'sheet texture colors', ofVariants: true },
  color: { word: 'Color', words: 'model viewport', ofVariants: true },
  islands: { word: 'Islands', words: 'uv unwrap', ofVariants: true },
  paint: { word: 'Paint', words: 'texels pixels brush texture', ofVariants: true },
  stage: { word: 'Stage', words: 'scene game place instances play' },
  proof: { word: 'Proof', words: 'check errors costs' },
  'hand-off': { word: 'Hand-off', words: 'export download save file' },
} as const satisfies { [slug in string]: View };

export type ViewSlug = keyof typeof views;
export const viewList = Object.entries(views) as [ViewSlug, View][];
