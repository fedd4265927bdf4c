/** The studio of one project: header, stage, desk, band. */
import {
  DndContext,
  DragOverlay,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { FinishChart } from '../band/FinishChart.tsx';
import { FinishRack } from '../band/FinishRack.tsx';
import { FontRack } from '../band/FontRack.tsx';
import { LightBand } from '../band/LightBand.tsx';
import { SetBand } from '../band/SetBand.tsx';
import { SurroundRack } from '../band/SurroundRack.tsx';
import { TimeBand } from '../band/time/TimeBand.tsx';
import { Stage } from '../stage/Stage.tsx';
import { targetName } from '@wemlox/core/edits';
import { dressFaces, dressPointed } from '../actions/finishes.ts';
import { choose, useAlone, useChoice, useHover, type ChosenFace } from '../state/choice.ts';
import { watchHealth } from '../state/health.ts';
import { loadProofs } from '../state/proofs.ts';
import { openProject } from '../state/saving.ts';
import { useStudio } from '../state/studio.ts';
import { isStep, type Step } from '../state/words.ts';
import { FinishDesk } from '../steps/finish/FinishDesk.tsx';
import { FrameDesk } from '../steps/frame/FrameDesk.tsx';
import { LightDesk } from '../steps/light/LightDesk.tsx';
import { PressBand } from '../steps/press/PressBand.tsx';
import { PressDesk } from '../steps/press/PressDesk.tsx';
import { ProofBand } from '../steps/proof/ProofBand.tsx';
import { ProofDesk } from '../steps/proof/ProofDesk.tsx';
import { SetDesk } from '../steps/set/SetDesk.tsx';
import { Broken } from './Broken.tsx';
import { commands } from './commands.ts';
import { ConflictDialog } from './ConflictDialog.tsx';
import { landing, topmost } from './drops.ts';
import { Header } from './Header.tsx';
import { KeysSheet } from './KeysSheet.tsx';
import { Palette } from './Palette.tsx';
import { RemoveFinish } from './RemoveFinish.tsx';
import { Revisions } from './Revisions.tsx';
import { useKeys } from './useKeys.ts';

const DESKS: Record<Step, () => React.ReactNode> = {
  set: () => <SetDesk />,
  finish: () => <FinishDesk />,
  light: () => <LightDesk />,
  frame: () => <FrameDesk />,
  proof: () => <ProofDesk />,
  press: () => <PressDesk />,
};

const BANDS: Record<Step, () => React.ReactNode> = {
  set: () => <SetBand />,
  finish: () => <FinishChart />,
  light: () => <LightBand />,
  frame: () => <TimeBand />,
  proof: () => <ProofBand />,
  press: () => <PressBand />,
};

const RACKS: Partial<Record<Step, () => React.ReactNode>> = {
  set: () => <FontRack />,
  finish: () => <FinishRack />,
  light: () => <SurroundRack />,
};

function OpenStudio({ base, lookId, step }: { base: string; lookId: string; step: Step }) {
  const [palette, setPalette] = useState(false);
  const [keys, setKeys] = useState(false);
  const [revisions, setRevisions] = useState(false);
  const [dragged, setDragged] = useState<string | null>(null);
  /** Where the dragged finish would land, in words. */
  const [landsOn, setLandsOn] = useState('');
  const finishes = useStudio((s) => s.seen.finishes);
  const large = useChoice((c) => c.largeChart) && step === 'finish';
  const go = useNavigate();
  const { alone } = useAlone();
  const beside = alone ? 'hidden' : '';
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  useKeys({ go, base, lookId, onPalette: () => setPalette(true), onKeys: () => setKeys(true) });
  useEffect(watchHealth, []);
  useEffect(() => () => useAlone.setState({ alone: false }), []);
  const hover = () => {
    const at = landing();
    setLandsOn(at ? targetName(useStudio.getState().seen, at.target) : '');
    useHover.setState({ face: at?.inPicture ? (at.target as ChosenFace) : null, point: null });
  };
  const end = () => {
    setDragged(null);
    setLandsOn('');
    useHover.setState({ face: null, point: null });
  };
  const drop = ({ active }: DragEndEvent) => {
    const at = landing();
    end();
    const { finish } = (active.data.current ?? {}) as { finish: string };
    if (at) (at.inPicture ? dressPointed : dressFaces)(at.target, finish);
  };
  const rack = RACKS[step];
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={topmost}
      onDragStart={({ active }) => setDragged((active.data.current as { finish: string }).finish)}
      onDragMove={hover}
      onDragCancel={end}
      onDragEnd={drop}
    >
      <div
        className={
          alone
            ? 'grid h-dvh grid-cols-1 grid-rows-1'
            : `grid h-dvh min-h-[680px] min-w-[1000px] grid-cols-[minmax(0,1fr)_332px] ${large ? 'grid-rows-[40px_minmax(0,1fr)_max(404px,40vh)]' : 'grid-rows-[40px_minmax(0,1fr)_max(196px,22vh)]'}`
        }
      >
        <div className={`col-span-2 ${beside}`}>
          <Header
            base={base}
            lookId={lookId}
            step={step}
            onPalette={() => setPalette(true)}
            onKeys={() => setKeys(true)}
            onRevisions={() => setRevisions(true)}
          />
        </div>
        <main className="min-h-0 min-w-0">
          <Stage />
        </main>
        <aside aria-label="Desk" className={`overflow-y-auto border-l border-(--line) px-4 ${beside}`}>
          {DESKS[step]()}
        </aside>
        <section
          aria-label="Band"
          className={`min-w-0 overflow-hidden border-t border-(--line) ${rack ? '' : 'col-span-2'} ${beside}`}
        >
          {BANDS[step]()}
        </section>
        {rack && (
          <section aria-label="Rack" className={`min-w-0 border-t border-l border-(--line) ${beside}`}>
            {rack()}
          </section>
        )}
      </div>
      <DragOverlay dropAnimation={null}>
        {dragged && (
          <span className="rounded-xs bg-primary px-2 py-1 whitespace-nowrap text-primary-content">
            {finishes.find((f) => f.id === dragged)?.name}
            {landsOn && ` → ${landsOn}`}
          </span>
        )}
      </DragOverlay>
      {palette && (
        <Palette
          all={commands({
            go,
            base,
            lookId,
            onKeys: () => setKeys(true),
            onRevisions: () => setRevisions(true),
          })}
          onClose={() => setPalette(false)}
        />
      )}
      {revisions && <Revisions onClose={() => setRevisions(false)} />}
      <RemoveFinish />
      {keys && <KeysSheet onClose={() => setKeys(false)} />}
      <ConflictDialog />
    </DndContext>
  );
}

export function Studio() {
  const { project: id = '', look, step } = useParams();
  const openId = useStudio((s) => s.id);
  const looks = useStudio((s) => s.seen?.looks);
  const go = useNavigate();
  const [failed, setFailed] = useState<Error | null>(null);
  const [tries, setTries] = useState(0);

  useEffect(() => {
    setFailed(null);
    choose({ proof: null, against: null, comparing: 'off' });
    openProject(id).then(() => void loadProofs(id).catch(() => {}), setFailed);
  }, [id, tries]);

  const open = openId === id && looks ? looks : null;
  // a look that is gone (undone, removed elsewhere) gives way to the first, without the studio being built anew
  const found = open?.find((l) => l.id === look) ?? open?.[0];
  const at = isStep(step) ? step : 'set';
  useEffect(() => {
    if (!found) return;
    if (useChoice.getState().lookId !== found.id) choose({ lookId: found.id });
    if (found.id !== look || at !== step) void go(`/p/${id}/${found.id}/${at}`, { replace: true });
  }, [found, look, at, step, go, id]);

  if (failed) return <Broken id={id} error={failed} onMended={() => setTries(tries + 1)} />;
  if (!found)
    return (
      <main className="quiet grid h-dvh place-content-center" aria-busy="true">
        <h1 className="text-[13px]">Opening the project</h1>
      </main>
    );
  return <OpenStudio key={id} base={`/p/${id}`} lookId={found.id} step={at} />;
}
