/** Where an arrow key leads, to the right and down. */
export const arrows: ReadonlyMap<string, readonly [x: number, y: number]> = new Map([
  ['ArrowLeft', [-1, 0]],
  ['ArrowRight', [1, 0]],
  ['ArrowUp', [0, -1]],
  ['ArrowDown', [0, 1]],
]);
