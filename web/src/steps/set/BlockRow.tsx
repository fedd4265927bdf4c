/** The project's blocks: choose, add, copy, remove. */
import { Copy, Plus, Shapes, Trash2 } from 'lucide-react';
import { useRef } from 'react';
import { choose } from '../../state/choice.ts';
import { useStudio } from '../../state/studio.ts';
import { blockName, type Block } from '@wemlox/core/document';
import { addDrawing, addText, copyBlock, removeBlock } from '../../actions/blocks.ts';

export function BlockRow({ chosen }: { chosen: Block | undefined }) {
  const blocks = useStudio((s) => s.seen.blocks);
  const input = useRef<HTMLInputElement>(null);
  return (
    <div
      className="flex flex-wrap items-center gap-1 border-b border-(--line) py-2"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        if (e.dataTransfer.files[0]) void addDrawing(e.dataTransfer.files[0]);
      }}
    >
      <div role="radiogroup" aria-label="Blocks" className="flex min-w-0 flex-1 flex-wrap gap-1">
        {blocks.map((b) => (
          <button
            key={b.id}
            type="button"
            role="radio"
            aria-checked={b.id === chosen?.id}
            className={`btn btn-xs max-w-36 font-normal ${b.id === chosen?.id ? 'btn-primary' : ''}`}
            onClick={() => choose({ block: b.id, face: null })}
          >
            <span className="truncate">{blockName(b)}</span>
          </button>
        ))}
      </div>
      <button type="button" className="btn btn-xs btn-ghost px-1" title="Add a word" onClick={addText}>
        <Plus size={14} aria-label="Add a word" />
      </button>
      <button
        type="button"
        className="btn btn-xs btn-ghost px-1"
        title="Add a drawing: SVG, or a black picture as PNG or JPEG"
        onClick={() => input.current?.click()}
      >
        <Shapes size={14} aria-label="Add a drawing" />
      </button>
      {chosen && (
        <>
          <button
            type="button"
            className="btn btn-xs btn-ghost px-1"
            title="Copy the block"
            onClick={() => copyBlock(chosen.id)}
          >
            <Copy size={14} aria-label="Copy the block" />
          </button>
          <button
            type="button"
            className="btn btn-xs btn-ghost px-1"
            title="Remove the block"
            onClick={() => removeBlock(chosen.id)}
          >
            <Trash2 size={14} aria-label="Remove the block" />
          </button>
        </>
      )}
      <input
        ref={input}
        type="file"
        accept=".svg,.png,.jpg,.jpeg"
        hidden
        data-testid="drawing-file"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) void addDrawing(file);
        }}
      />
    </div>
  );
}
