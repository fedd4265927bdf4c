/** What can be done with the keys in hand. */
import { Copy, Trash2 } from 'lucide-react';
import { copyKeysHere, removeKeysInHand, stretchKeys } from '../../actions/motion.ts';
import { useTime } from '../../state/time.ts';

export function KeyTools() {
  const keys = useTime((t) => t.keys);
  if (keys.length === 0) return null;
  return (
    <span
      className="flex items-center gap-1.5 border-l border-(--line) pl-3"
      role="group"
      aria-label="Keys in hand"
    >
      <span className="quiet text-xs">{keys.length === 1 ? '1 key' : `${keys.length} keys`}</span>
      <button
        type="button"
        className="btn btn-xs"
        title="Copies them to begin at this picture"
        onClick={copyKeysHere}
      >
        <Copy size={12} /> Copy here
      </button>
      {keys.length > 1 && (
        <>
          <button type="button" className="btn btn-xs" onClick={() => stretchKeys(2)}>
            Slower ×2
          </button>
          <button type="button" className="btn btn-xs" onClick={() => stretchKeys(0.5)}>
            Faster ×2
          </button>
        </>
      )}
      <button
        type="button"
        className="btn btn-xs"
        aria-label="Remove the keys in hand"
        onClick={removeKeysInHand}
      >
        <Trash2 size={12} />
      </button>
    </span>
  );
}
