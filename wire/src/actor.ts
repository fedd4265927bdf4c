/** Who does something: noted beside what is made. */
export interface Actor {
  /** 1 … 64 letters, digits, - or _. */
  id: string;
}

/** The one artist of a studio that nobody signs in to. */
export const LOCAL_ARTIST: Actor = { id: 'local' };

/** What the studio does by itself: rendering, sweeping, loading the demo. */
export const STUDIO: Actor = { id: 'studio' };
