/** What was found, one thing after the other, each with what mends it. */
import { ChevronRight } from 'lucide-react';
import { useState } from 'react';

interface Advised {
  text: string;
  /** What mends it or leads to it; null where hands must. */
  mend: { name: string; run: () => void } | null;
}

export function Advice({ advised, testid }: { advised: readonly Advised[]; testid: string }) {
  const [chosen, setChosen] = useState(0);
  const count = advised.length;
  // what was mended is gone, and the next is in its place
  const at = Math.min(chosen, count - 1);
  const { text, mend } = advised[at];
  return (
    <span className="flex min-w-0 items-center gap-1.5 text-xs" role="status" data-testid={testid}>
      <span className="truncate rounded-xs bg-warning px-1.5 py-0.5 text-warning-content" title={text}>
        {text}
      </span>
      {mend && (
        <button type="button" className="btn btn-xs" onClick={mend.run}>
          {mend.name}
        </button>
      )}
      {count > 1 && (
        <button
          type="button"
          className="btn btn-ghost btn-xs gap-0.5 px-1 whitespace-nowrap"
          aria-label={`Finding ${at + 1} of ${count}; the next`}
          title="The next of what was found"
          onClick={() => setChosen((at + 1) % count)}
        >
          {at + 1} of {count} <ChevronRight size={12} />
        </button>
      )}
    </span>
  );
}
