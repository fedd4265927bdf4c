/** Maps of directions over the unwrapped surround: cells across and down, five degrees each. */
export const SIGHT_ACROSS = 72;
export const SIGHT_DOWN = 36;
