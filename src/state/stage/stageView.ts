let viewOf: (() => number[]) | null = null;
/** The stage says how its camera stands, for as long as it is there. */
export function provideStageView(of: (() => number[]) | null): void {
  viewOf = of;
}
/** Projection × view of the stage's camera, 16 numbers column by column; `null` where there is none. */
export const stageView = (): number[] | null => viewOf?.() ?? null;
