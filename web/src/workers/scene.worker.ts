/** Answers scene requests. */
import { handedOver } from './draft/buffers.ts';
import type { Asked, SceneRequest } from './messages.ts';

// the shaper opens its WebAssembly while its module loads, and what arrives meanwhile would be lost: listen first
const making = import('./makeScene.ts');

self.onmessage = async ({ data }: MessageEvent<SceneRequest | Asked>) => {
  const { answerTo, replyTo } = await making;
  if ('question' in data) {
    self.postMessage(await answerTo(data));
    return;
  }
  const reply = await replyTo(data);
  self.postMessage(reply, { transfer: 'draft' in reply ? handedOver(reply.draft) : [] });
};
