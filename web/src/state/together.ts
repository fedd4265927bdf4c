/** Lights that are worked on together with the chosen one. */
import { create } from 'zustand';
import { useChoice } from './choice.ts';

export const useTogether = create<{ others: readonly string[] }>()(() => ({ others: [] }));

/** Takes a light to those worked on together, or lets it go. */
export const join = (id: string) =>
  useTogether.setState(({ others }) => ({
    others: others.includes(id) ? others.filter((o) => o !== id) : [...others, id],
  }));

export const part = () => useTogether.setState({ others: [] });

// whoever chooses another light works on that one, unless it was among them
useChoice.subscribe((now, before) => {
  if (now.light === before.light) return;
  const { others } = useTogether.getState();
  if (now.light && before.light && others.includes(now.light))
    useTogether.setState({ others: [...others.filter((o) => o !== now.light), before.light] });
  else if (others.length > 0) part();
});
