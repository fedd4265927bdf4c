/** Proof: looking and comparing. */
import { GradeRows } from '../../desk/GradeRows.tsx';
import { ChoiceRow, NumberRow, Section, SegmentRow } from '../../desk/rows.tsx';
import { duration } from '../../stage/Status.tsx';
import { useShown } from '../../state/shown.ts';
import { choose, useChoice, useCompared } from '../../state/choice.ts';
import { whenText } from '../../state/language.ts';
import { backToProof, keepProof, removeProof } from '../../actions/proofs.ts';
import { useProofs } from '../../state/proofs.ts';

export function ProofDesk() {
  const { samples, noise, secondsLeft, fresh, state } = useShown();
  const { samples: goal, proof: chosen, comparing } = useChoice();
  const against = useChoice((c) => c.against);
  const { amplify, regraded } = useChoice();
  const compared = useCompared();
  const list = useProofs((p) => p.list);
  const proof = list.find((x) => x.id === chosen);
  return (
    <>
      <Section
        title="Now"
        aside={
          <button type="button" className="btn btn-primary btn-xs" onClick={() => void keepProof()}>
            Keep a proof <kbd className="kbd kbd-xs">K</kbd>
          </button>
        }
      >
        <NumberRow
          label="Samples"
          min={1}
          max={65_536}
          faderMax={4096}
          step={1}
          digits={0}
          log
          value={goal}
          initial={256}
          onChange={(v) => choose({ samples: Math.round(v) })}
        />
        <p className="quiet flex justify-between pt-1">
          <span>{fresh ? `${samples} traced` : 'not traced yet'}</span>
          <span>{fresh && Number.isFinite(noise) ? `raw noise ${(noise * 100).toFixed(1)} %` : ''}</span>
          <span>{state === 'tracing' && fresh ? `${duration(secondsLeft)} left` : ''}</span>
        </p>
      </Section>
      {proof && (
        <Section title={proof.name} aside={whenText(proof.keptAt)}>
          <p className="quiet pb-1.5">
            {proof.width} × {proof.height}, {proof.samples} samples, seed {proof.seed}, {proof.renderer}
          </p>
          <SegmentRow
            label="Compare"
            value={comparing}
            options={[
              ['off', 'Off'],
              ['wipe', 'Wipe'],
              ['difference', 'Difference'],
            ]}
            onChange={(v) => choose({ comparing: v })}
          />
          <ChoiceRow
            label="Against"
            value={against ?? ''}
            options={[
              ['', 'The present'],
              ...list.filter((p) => p.id !== proof.id).map((p) => [p.id, p.name] as const),
            ]}
            onChange={(id) => choose({ against: id || null })}
          />
          {comparing === 'difference' && proof.film && (
            <NumberRow
              label="Brighten"
              unit="EV"
              min={0}
              max={12}
              step={0.5}
              value={amplify}
              initial={3}
              hint="Stops by which the difference is brightened"
              onChange={(v) => choose({ amplify: v })}
            />
          )}
          {proof.film ? (
            <SegmentRow
              label="Grade"
              hint="The kept film under the grade it was kept in, or under the present one"
              value={regraded ? 'now' : 'kept'}
              options={[
                ['kept', 'As kept'],
                ['now', 'As now'],
              ]}
              onChange={(v) => choose({ regraded: v === 'now' })}
            />
          ) : (
            <p className="quiet py-1 text-xs">This proof has no film: it is compared as it was shown.</p>
          )}
          {comparing === 'difference' && proof.film && (
            <p className="quiet py-1 text-xs" role="status" data-testid="difference">
              {compared.problem ||
                (compared.mean === null
                  ? ''
                  : `They differ by ${(compared.mean * 100).toFixed(1)} % of the proof’s light.`)}
            </p>
          )}
          <p className="quiet py-1 text-xs">Hold Space to see the proof whole.</p>
          <div className="flex gap-1.5 pt-1">
            <button type="button" className="btn btn-xs" onClick={() => void backToProof(proof)}>
              Go back to this state
            </button>
            <button type="button" className="btn btn-xs" onClick={() => void removeProof(proof)}>
              Remove
            </button>
          </div>
        </Section>
      )}
      <Section title="Grade">
        <GradeRows />
      </Section>
    </>
  );
}
