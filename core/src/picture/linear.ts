/** A picture in linear light. */
export interface LinearPicture {
  width: number;
  height: number;
  /** r, g, b, alpha for each pixel, alpha-associated, rows from the top. */
  data: Float32Array;
}
