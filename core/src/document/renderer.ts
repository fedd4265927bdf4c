/** Names the renderer in proofs and files; raised whenever the same document gives other pixels. */
export const RENDERER = 'wemlox 11';
