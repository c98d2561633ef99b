/** The power of ten, in metres, that suits a model of this size. */
export const gridStep = (size: number): number => 10 ** Math.round(Math.log10(Math.max(size, 1e-6) / 8));
