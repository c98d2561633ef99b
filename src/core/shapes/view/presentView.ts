/** A camera at rest, as rasters and rays need it. */
export interface PresentView {
  /** Projection × view, 16 numbers column by column; see `rasterFaces`. */
  matrix: number[];
  /** Pixels. */
  width: number;
  height: number;
  /** Where rays come from, metres. */
  eye: [number, number, number];
  /** The direction of a parallel view, whose rays are all parallel to it. */
  ahead?: [number, number, number];
}
