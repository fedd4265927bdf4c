/** Answers scene requests. */
import type { Asked, SceneRequest } from './messages.ts';

// the shaper opens its WebAssembly while its module loads, and what arrives meanwhile would be lost: listen first
const making = import('./makeScene.ts');

self.onmessage = async ({ data }: MessageEvent<SceneRequest | Asked>) => {
  const { answerTo, replyTo } = await making;
  self.postMessage('question' in data ? await answerTo(data) : await replyTo(data));
};
