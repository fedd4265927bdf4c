/** The studio of one project: header, stage, desk, band. */
import {
  DndContext,
  DragOverlay,
  pointerWithin,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { ChartTarget } from '@wemlox/core/src/document/index.ts';
import { FinishChart } from '../band/FinishChart.tsx';
import { FinishRack } from '../band/FinishRack.tsx';
import { FontRack } from '../band/FontRack.tsx';
import { LightBand } from '../band/LightBand.tsx';
import { SetBand } from '../band/SetBand.tsx';
import { SurroundRack } from '../band/SurroundRack.tsx';
import { Stage } from '../stage/Stage.tsx';
import { layFinish } from '../state/actions.ts';
import { choose, useChoice } from '../state/choice.ts';
import { loadProofs } from '../state/proofs.ts';
import { openProject } from '../state/saving.ts';
import { useStudio } from '../state/studio.ts';
import { isStep, type Step } from '../state/words.ts';
import { FinishDesk } from '../steps/finish/FinishDesk.tsx';
import { FrameDesk } from '../steps/frame/FrameDesk.tsx';
import { PieceBand } from '../steps/frame/PieceBand.tsx';
import { LightDesk } from '../steps/light/LightDesk.tsx';
import { PressBand } from '../steps/press/PressBand.tsx';
import { PressDesk } from '../steps/press/PressDesk.tsx';
import { ProofBand } from '../steps/proof/ProofBand.tsx';
import { ProofDesk } from '../steps/proof/ProofDesk.tsx';
import { SetDesk } from '../steps/set/SetDesk.tsx';
import { commands } from './commands.ts';
import { ConflictDialog } from './ConflictDialog.tsx';
import { Header } from './Header.tsx';
import { KeysSheet } from './KeysSheet.tsx';
import { Palette } from './Palette.tsx';
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
  frame: () => <PieceBand />,
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
  const [dragged, setDragged] = useState<string | null>(null);
  const finishes = useStudio((s) => s.project.finishes);
  const go = useNavigate();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  useKeys({ go, base, lookId, onPalette: () => setPalette(true), onKeys: () => setKeys(true) });
  const drop = ({ active, over }: DragEndEvent) => {
    setDragged(null);
    if (over)
      layFinish(
        (over.data.current as { target: ChartTarget }).target,
        (active.data.current as { finish: string }).finish,
      );
  };
  const rack = RACKS[step];
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragStart={({ active }) => setDragged((active.data.current as { finish: string }).finish)}
      onDragCancel={() => setDragged(null)}
      onDragEnd={drop}
    >
      <div className="grid h-dvh min-h-[680px] min-w-[1000px] grid-cols-[minmax(0,1fr)_332px] grid-rows-[40px_minmax(0,1fr)_196px]">
        <div className="col-span-2">
          <Header
            base={base}
            lookId={lookId}
            step={step}
            onPalette={() => setPalette(true)}
            onKeys={() => setKeys(true)}
          />
        </div>
        <main className="min-h-0 min-w-0">
          <Stage />
        </main>
        <aside aria-label="Desk" className="overflow-y-auto border-l border-(--line) px-4">
          {DESKS[step]()}
        </aside>
        <section
          aria-label="Band"
          className={`min-w-0 overflow-hidden border-t border-(--line) ${rack ? '' : 'col-span-2'}`}
        >
          {BANDS[step]()}
        </section>
        {rack && (
          <section aria-label="Rack" className="min-w-0 border-t border-l border-(--line)">
            {rack()}
          </section>
        )}
      </div>
      <DragOverlay dropAnimation={null}>
        {dragged && (
          <span className="rounded-xs bg-primary px-2 py-1 text-primary-content">
            {finishes.find((f) => f.id === dragged)?.name}
          </span>
        )}
      </DragOverlay>
      {palette && <Palette all={commands(go, base, lookId)} onClose={() => setPalette(false)} />}
      {keys && <KeysSheet onClose={() => setKeys(false)} />}
      <ConflictDialog />
    </DndContext>
  );
}

export function Studio() {
  const { project: id = '', look, step } = useParams();
  const openId = useStudio((s) => s.id);
  const looks = useStudio((s) => s.project?.looks);
  const go = useNavigate();
  const [failed, setFailed] = useState('');

  useEffect(() => {
    setFailed('');
    choose({ proof: null, against: null, comparing: 'off' });
    openProject(id).then(
      () => void loadProofs(id).catch(() => {}),
      (error: Error) => setFailed(error.message),
    );
  }, [id]);

  const open = openId === id && looks ? looks : null;
  const found = open?.find((l) => l.id === look);
  useEffect(() => {
    if (!open) return;
    if (!found || !isStep(step)) {
      void go(`/p/${id}/${found?.id ?? open[0].id}/${isStep(step) ? step : 'set'}`, { replace: true });
    } else if (useChoice.getState().lookId !== found.id) choose({ lookId: found.id });
  }, [open, found, step, go, id]);

  if (failed) {
    return (
      <div className="grid h-dvh place-content-center gap-3 text-center">
        <p>This project cannot be opened: {failed}.</p>
        <button type="button" className="btn btn-sm mx-auto" onClick={() => void go('/')}>
          All projects
        </button>
      </div>
    );
  }
  if (!open || !found || !isStep(step))
    return <p className="quiet grid h-dvh place-content-center">Opening the project</p>;
  return <OpenStudio key={id} base={`/p/${id}`} lookId={found.id} step={step} />;
}
