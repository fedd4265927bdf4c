/** A kept proof laid over the present picture: wiped to a line, as a difference, or whole while Space is held. */
import { useEffect, useRef, useState } from 'react';
import { assetUrl } from '../state/api.ts';
import { choose, useChoice } from '../state/choice.ts';
import { useLook } from '../state/chosen.ts';
import { latestOf, useProofs } from '../state/proofs.ts';
import { ProofCanvas } from './ProofCanvas.tsx';

interface Place {
  left: number;
  top: number;
  width: number;
  height: number;
}

const STEP = 0.02;

export function Compared({ place }: { place: Place }) {
  const { proof: chosen, against, comparing, wipe, lookId, regraded } = useChoice();
  const { grade } = useLook();
  const proofs = useProofs((p) => p.list);
  const [held, setHeld] = useState(false);
  const box = useRef<HTMLDivElement>(null);

  useEffect(() => {
    /** A button that was clicked keeps the focus, but the hand is on the pointer: Space is for comparing then. */
    let byPointer = false;
    let comparing = false;
    const takesSpace = (e: Event) =>
      e.target instanceof HTMLElement &&
      e.target.closest(
        byPointer
          ? 'input:not([type=checkbox], [type=range]), textarea, select, dialog'
          : 'input, textarea, select, button, a, summary, dialog, [role=slider], [role=button]',
      ) !== null;
    const press = () => {
      byPointer = true;
    };
    const down = (e: KeyboardEvent) => {
      if (e.code !== 'Space') {
        if (e.key === 'Tab' || e.key.startsWith('Arrow')) byPointer = false;
        return;
      }
      if (!comparing && takesSpace(e)) return;
      // neither scrolls the page nor presses the button
      e.preventDefault();
      comparing = true;
      setHeld(true);
    };
    const up = (e: KeyboardEvent) => {
      if (e.code !== 'Space' || !comparing) return;
      e.preventDefault();
      comparing = false;
      setHeld(false);
    };
    window.addEventListener('pointerdown', press, true);
    window.addEventListener('keydown', down, true);
    window.addEventListener('keyup', up, true);
    return () => {
      window.removeEventListener('pointerdown', press, true);
      window.removeEventListener('keydown', down, true);
      window.removeEventListener('keyup', up, true);
    };
  }, []);

  const proof = proofs.find((p) => p.id === chosen) ?? (held ? latestOf(proofs, lookId) : null);
  if (!proof || (comparing === 'off' && !held)) return null;
  const other = proofs.find((p) => p.id === against && p.id !== proof.id) ?? null;
  const wiping = comparing === 'wipe' && !held;
  const differing = comparing === 'difference' && !held;
  // films differ in light, pictures only in what was shown of it
  const linear = differing && Boolean(proof.film) && (other === null || Boolean(other.film));
  const moveTo = (clientX: number) => {
    const { left, width } = box.current!.getBoundingClientRect();
    choose({ wipe: Math.min(1, Math.max(0, (clientX - left) / width)) });
  };
  return (
    <div ref={box} className="pointer-events-none absolute" style={place} data-testid="compared">
      {other &&
        !held &&
        !linear &&
        (other.film && regraded && !differing ? (
          <ProofCanvas film={other.film} grade={grade} label={`Proof ${other.name}`} />
        ) : (
          <img
            src={assetUrl(other.picture)}
            alt={`Proof ${other.name}`}
            className="absolute inset-0 h-full w-full object-contain"
          />
        ))}
      <div
        className="absolute inset-0"
        style={{
          clipPath: wiping ? `inset(0 ${(1 - wipe) * 100}% 0 0)` : undefined,
          mixBlendMode: differing && !linear ? 'difference' : undefined,
        }}
      >
        {proof.film && (linear || regraded) ? (
          <ProofCanvas
            film={proof.film}
            against={linear ? (other ? other.film : null) : undefined}
            grade={grade}
            label={linear ? `Difference of ${proof.name}` : `Proof ${proof.name}`}
          />
        ) : (
          <img
            src={assetUrl(proof.picture)}
            alt={`Proof ${proof.name}`}
            className="h-full w-full object-contain"
          />
        )}
      </div>
      {wiping && (
        <div
          role="slider"
          tabIndex={0}
          aria-label="Wipe between the proof and the present"
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(wipe * 100)}
          className="pointer-events-auto absolute inset-y-0 -ml-2.5 w-5 cursor-ew-resize touch-none"
          style={{ left: `${wipe * 100}%` }}
          onPointerDown={(e) => {
            e.stopPropagation();
            e.currentTarget.setPointerCapture(e.pointerId);
          }}
          onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && moveTo(e.clientX)}
          onKeyDown={(e) => {
            const by = e.key === 'ArrowLeft' ? -STEP : e.key === 'ArrowRight' ? STEP : 0;
            if (by !== 0) choose({ wipe: Math.min(1, Math.max(0, wipe + by)) });
          }}
        >
          <div className="mx-auto h-full w-px bg-white shadow-[0_0_0_0.5px_black]" />
        </div>
      )}
      <div className="absolute top-2 left-2 rounded-sm bg-black/60 px-1.5 py-0.5 text-xs text-white">
        {differing ? `${proof.name} against ${other?.name ?? 'now'}` : proof.name}
      </div>
      {wiping && (
        <div className="absolute top-2 right-2 rounded-sm bg-black/60 px-1.5 py-0.5 text-xs text-white">
          {other?.name ?? 'Now'}
        </div>
      )}
    </div>
  );
}
