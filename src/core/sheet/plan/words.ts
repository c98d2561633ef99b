import type { Lch } from '../../ground/color/oklab';

/**
 * What things and materials look like, as OKLCH (lightness in hundredths, chroma in thousandths, hue in
 * degrees). Chosen by eye for models that are drawn in few flat colors: mid values, so that steps fit on both
 * sides.
 */
const things = `
skin 74 75 55; pale skin 84 45 60; tan skin 66 85 58; brown skin 50 70 52; dark skin 38 55 48; hair 38 45 60; fur 52 55 65; lips 60 110 20;
bone 87 30 90; horn 70 40 80; ivory 91 25 95; shell 85 35 60; coral 69 130 35; pearl 90 12 80; feather 78 15 250; leather 44 70 55; hide 52 60 60; blood 42 140 25;
wood 55 75 65; oak 60 75 70; pine 72 80 78; birch 82 40 85; walnut 40 55 55; mahogany 39 85 38; cedar 52 90 48; driftwood 66 20 75; bark 40 40 60; plank 60 65 68; timber 54 70 66;
log 48 60 62; cork 66 65 68; bamboo 76 90 100; wicker 66 80 75; charcoal 26 10 60; ash 68 8 80; soot 22 6 60; cardboard 66 60 75; paper 94 14 95; parchment 88 45 88;
iron 42 12 250; steel 64 15 245; chrome 80 10 240; silver 79 8 250; lead 50 12 255; tin 70 8 240; zinc 66 14 240; aluminium 76 6 240; gold 77 130 85; brass 69 115 85; bronze 54 80 70;
copper 60 110 48; rust 51 115 45; verdigris 66 75 175; gunmetal 36 14 250; wire 46 8 250; chain 44 10 250; anchor 36 12 255; nail 48 10 240; bolt 52 10 240; metal 58 12 245;
cloth 74 35 80; linen 86 28 88; canvas 82 35 88; sail 90 25 90; wool 82 24 85; felt 48 60 150; silk 80 60 350; velvet 36 110 15; denim 46 75 255; cotton 92 10 90; rope 71 65 82; twine 74 60 80;
net 56 50 170; flag 55 170 27; banner 50 150 25; carpet 42 110 22; curtain 46 110 20; thread 70 40 60; sack 67 55 80; tarp 48 80 250;
grass 60 120 130; moss 52 95 120; leaf 56 120 138; leaves 54 118 136; foliage 50 105 138; lichen 75 85 110; fern 52 105 135; ivy 42 80 145; reed 68 80 105; hay 80 100 92; straw 83 100 93; wheat 80 100 88;
seaweed 40 60 125; kelp 38 65 115; algae 54 95 150; cactus 56 85 145; flower 68 150 355; petal 76 110 350; rose 60 160 15; heather 56 90 330; lavender 68 85 300; stem 58 105 132; root 48 50 65; mushroom 74 35 60; fruit 62 160 40; berry 42 130 5; apple 55 160 28; pumpkin 68 150 55;
stone 60 12 90; rock 52 14 250; granite 62 10 40; slate 47 22 250; marble 90 8 90; limestone 82 28 90; sandstone 74 60 75; chalk 94 10 95; basalt 34 10 260; pebble 66 14 80; gravel 60 12 75; cobble 54 12 70;
brick 50 105 38; tile 55 115 40; clay 59 85 50; terracotta 61 105 45; plaster 88 18 85; mortar 74 10 85; concrete 70 6 90; cement 66 6 100; asphalt 34 5 260; coal 24 5 260; lime wash 93 18 95; whitewash 94 12 95;
sand 83 60 85; dirt 44 50 60; earth 42 50 58; mud 38 42 62; soil 36 40 58; dust 76 30 80; dune 80 65 80; snow 96 8 240; ice 88 40 220; frost 91 22 230;
water 58 85 230; sea 50 80 225; ocean 44 85 240; river 60 75 220; lake 54 75 235; pond 48 55 190; foam 95 12 200; wave 56 80 225; sky 78 75 235; cloud 93 8 240; night 26 60 275; dawn 80 85 40; dusk 52 85 320; smoke 56 8 260; fog 82 8 240; mist 86 10 230;
fire 70 180 50; flame 76 165 65; ember 60 190 38; lava 60 200 38; lamp 90 95 92; lamplight 91 90 92; lantern 88 110 88; light 93 60 95; glow 90 100 95; sun 90 130 95; moon 92 25 100; glass 80 45 210; window 70 55 230; crystal 78 70 290; lens 76 60 215; mirror 86 12 230;
tar 25 12 60; pitch 22 10 50; oil 28 25 90; rubber 30 5 260; plastic 62 90 250; wax 88 50 88; paint 55 150 27; ink 24 25 275; glue 82 40 85; bread 70 80 70; cheese 84 110 90; meat 52 120 22; fish 68 30 235; crab 56 150 33; gull 92 6 240; egg 90 30 75;
hull 40 70 250; deck 66 65 72; mast 58 65 68; oar 64 65 70; buoy 56 180 30; float 62 170 40; crate 62 70 72; barrel 50 65 60; door 42 70 155; roof 48 95 35; wall 86 20 88; floor 58 45 70; fence 70 30 75; sign 84 70 90; boot 34 30 55; hat 40 50 60; coat 44 60 245; tunic 52 80 150; shirt 82 25 240; trousers 44 30 255; belt 40 55 55; cape 44 130 25; armor 66 14 245; blade 76 10 245; shield 48 80 250; eye 30 30 250; tooth 92 22 92; claw 40 15 70;
red 55 195 28; orange 70 160 55; yellow 87 150 95; green 58 130 142; teal 58 90 190; blue 52 140 255; purple 48 130 305; violet 50 140 295; pink 76 110 0; brown 46 65 55; beige 84 40 82; cream 92 40 92; grey 60 4 90; gray 60 4 90; black 24 4 260; white 95 5 95;
crimson 46 185 18; scarlet 58 205 30; maroon 36 110 18; burgundy 36 105 10; vermilion 62 195 35; ochre 70 110 78; tan 72 60 72; khaki 70 60 95; sepia 44 50 65; taupe 58 18 65; turquoise 74 100 195; cyan 78 110 205; azure 66 130 245; navy 32 80 262; indigo 40 120 282; magenta 58 200 340; lilac 76 75 315; mauve 68 60 320; olive green 58 80 112`;

/** Words that say nothing but a color: beside a thing they win. */
export const colorWords: ReadonlySet<string> = new Set(
  'red orange yellow green teal blue purple violet pink brown beige cream grey gray black white crimson scarlet maroon burgundy vermilion ochre tan khaki sepia taupe turquoise cyan azure navy indigo magenta lilac mauve'.split(
    ' ',
  ),
);

/** What things are made of: before a thing that has no color by nature they win, too (a brick wall, iron doors). */
export const materials: ReadonlySet<string> = new Set(
  'wood oak pine birch walnut mahogany cedar driftwood bamboo wicker cork timber plank iron steel chrome silver lead tin zinc aluminium gold brass bronze copper gunmetal leather hide cloth linen canvas wool cotton felt silk velvet denim fur straw stone granite slate marble limestone sandstone chalk basalt brick clay terracotta plaster concrete glass crystal rubber plastic wax paper parchment cardboard bone ivory horn pearl coral ice rust verdigris'.split(
    ' ',
  ),
);

/** Things that have their color by nature, whatever stands before them: oak leaves are leaves. */
export const natural: ReadonlySet<string> = new Set(
  'skin hair lips blood leaf leaves foliage grass moss lichen fern ivy flower petal stem root mushroom fruit berry bark water sea river lake sky cloud snow fire flame ember smoke fog mist dust sand mud dirt earth soil light glow eye tooth meat bread'.split(
    ' ',
  ),
);

/**
 * What a state does to a thing: added lightness (hundredths), chroma as a share (hundredths), and a hue
 * toward which it turns by at most so many degrees, or takes as a stain.
 */
const states = `
dark -14 95; deep -10 110; light 12 85; pale 14 60; bright 8 125; dull -2 60; faded 8 50; worn 4 70; weathered 6 55; old -4 70; aged -4 75; new 2 115; fresh 3 115; dirty -10 70 60 20;
dusty 6 60 80 15; sooty -22 40; burnt -24 55 50 20; charred -28 35; wet -12 110; damp -7 105; dry 6 75; rusty -4 110 45 120; rusted -4 110 45 120; mossy -6 90 120 60; tarred -26 40; salty 10 55; bleached 16 35; painted 0 135; polished 6 115; oiled -8 105; frozen 10 60 225 60; warm 2 110 60 25; cool 0 100 250 25; tarnished -8 70 150 30; dried -4 70 75 30`;

export interface State {
  l: number;
  chroma: number;
  toward?: { hue: number; degrees: number };
}

export const thingColors: ReadonlyMap<string, Lch> = new Map(
  entries(things).map(([word, [l, c, h]]) => [word, { l: l! / 100, c: c! / 1000, h: h! }]),
);

export const stateWords: ReadonlyMap<string, State> = new Map(
  entries(states).map(([word, [l, chroma, hue, degrees]]) => [
    word,
    { l: l! / 100, chroma: chroma! / 100, ...(hue !== undefined && { toward: { hue, degrees: degrees! } }) },
  ]),
);

function entries(text: string): [string, number[]][] {
  return text.split(';').map((entry) => {
    const [, word, numbers] = /^\s*([a-z ]+?) ([-\d ]+)\s*$/.exec(entry.replace(/\n/g, ' '))!;
    return [word!, numbers!.split(' ').map(Number)];
  });
}
