/** What the choice means in the open document. */
import { finishAt, type Block, type Finish, type Look } from '@wemlox/core/document';
import { useChoice } from './choice.ts';
import { lookOf, useStudio } from './studio.ts';

export function useLook(): Look {
  const id = useChoice((c) => c.lookId);
  return useStudio((s) => lookOf(s.seen, id));
}

/** The block of the chosen face, the one chosen by itself, or the first. */
export function useChosenBlock(): Block | undefined {
  const face = useChoice((c) => c.face);
  const block = useChoice((c) => c.block);
  return useStudio(
    (s) =>
      s.seen.blocks.find((b) => b.id === face?.block) ??
      s.seen.blocks.find((b) => b.id === block) ??
      s.seen.blocks[0],
  );
}

/** The finish in the desk: what the chosen face wears, or the one chosen in the rack. */
export function useChosenFinish(): Finish | undefined {
  const look = useLook();
  const { face, finish } = useChoice();
  return useStudio((s) => {
    const worn = face && finishAt(look.chart, face.block, face.letter, face.zone);
    return s.seen.finishes.find((f) => f.id === (finish ?? worn));
  });
}
