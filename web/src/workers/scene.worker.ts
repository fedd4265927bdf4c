/** Answers scene requests. */
import type { SceneRequest } from './messages.ts';

// the shaper opens its WebAssembly while its module loads, and what arrives meanwhile would be lost: listen first
const making = import('./makeScene.ts');

self.onmessage = async ({ data }: MessageEvent<SceneRequest>) => {
  self.postMessage(await (await making).replyTo(data));
};
