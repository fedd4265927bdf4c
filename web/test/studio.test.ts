// @vitest-environment jsdom
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { finishAt, newLook } from '@wemlox/core/document';
import * as actions from './allActions.ts';
import { useChoice } from '../src/state/choice.ts';
import { history, OPENED, redo, undo } from '../src/state/studio.ts';
import { now, openStudio, steps } from './openStudio.ts';

beforeEach(() => {
  openStudio();
});
const press = (type: string) => window.dispatchEvent(new Event(type));

describe('the history', () => {
  it('has a step for each by name, back to the opened document and forth again', () => {
    const opened = now();
    const block = opened.blocks[0].id;
    actions.setText(block, 'TIDE');
    actions.addLight('area');
    actions.addLight('area');
    expect(steps()).toEqual(['Add Area', 'Add Area', 'Text', OPENED]);
    const last = now();
    for (let i = 0; i < 5; i++) undo();
    expect(now()).toBe(opened);
    for (let i = 0; i < 5; i++) redo();
    expect(now()).toBe(last);
  });

  it('takes everything edited during one press as one step, and none for an edit that changes nothing', () => {
    const block = now().blocks[0].id;
    press('pointerdown');
    for (const depth of [0.01, 0.02, 0.03])
      actions.changeBlock(block, 'Depth', (b) => void (b.depth = depth));
    press('pointerup');
    expect(steps()).toEqual(['Depth', OPENED]);
    actions.changeBlock(block, 'Depth', (b) => void (b.depth = 0.03));
    expect(steps()).toHaveLength(2);
    press('pointerdown');
    actions.changeBlock(block, 'Depth', (b) => void (b.depth = 0.04));
    press('pointerup');
    expect(steps()).toHaveLength(3);
    undo();
    expect(now().blocks[0].depth).toBe(0.03);
  });

  it('joins typing that follows closely, and not what comes later', () => {
    vi.useFakeTimers({ toFake: ['performance'] });
    const block = now().blocks[0].id;
    for (const text of ['T', 'TI', 'TID']) {
      actions.setText(block, text);
      vi.advanceTimersByTime(400);
    }
    vi.advanceTimersByTime(2000);
    actions.setText(block, 'TIDE');
    vi.useRealTimers();
    expect(steps()).toEqual(['Text', 'Text', OPENED]);
    undo();
    expect(now().blocks[0].text).toBe('TID');
  });

  it('forgets what was undone once something else is done', () => {
    actions.addLook();
    undo();
    actions.change('Rename', (p) => void (p.name = 'Tide Bar'));
    expect(history().futureStates).toHaveLength(0);
    redo();
    expect(now().name).toBe('Tide Bar');
  });
});

describe('finishes', () => {
  it('are laid on faces under names that say what and where', () => {
    const [{ id: block, letters }] = now().blocks;
    const [chrome, , red] = now().finishes;
    actions.dressFaces({}, chrome.id);
    actions.dressFaces({ block, letter: letters[1], zone: 'front' }, red.id);
    actions.dressFaces({ zone: 'side' }, null);
    expect(steps().slice(0, 3)).toEqual([
      'Clear Side',
      `Front of S → ${red.name}`,
      `All faces → ${chrome.name}`,
    ]);
    const { chart } = now().looks[0];
    expect(finishAt(chart, block, letters[1], 'front')).toBe(red.id);
    expect(finishAt(chart, block, letters[0], 'front')).toBe(chrome.id);
    expect(finishAt(chart, block, letters[0], 'side')).toBeNull();
  });

  it('painted along a stroke are one step, and cells that wear them already are left alone', () => {
    const [{ id: block, letters }] = now().blocks;
    const [, , red] = now().finishes;
    press('pointerdown');
    for (const letter of letters) actions.paintFace({ block, letter, zone: 'front' }, red.id);
    for (const letter of letters) actions.paintFace({ block, letter, zone: 'front' }, red.id);
    press('pointerup');
    expect(steps()).toEqual([`Paint ${red.name}`, OPENED]);
    expect(now().looks[0].chart.filter((r) => r.letter !== undefined)).toHaveLength(letters.length);
  });

  it('that go leave bare what wore them, in every look and piece, and come back with undo', () => {
    const before = now();
    const [chrome] = before.finishes;
    actions.dressFaces({}, chrome.id);
    actions.addPiece('floor');
    actions.changePiece(now().pieces.at(-1)!.id, 'Dress', (p) => void (p.finish = chrome.id));
    actions.addLook();
    const dressed = now();
    actions.removeFinish(chrome.id, null);
    expect(now().finishes.map((f) => f.id)).not.toContain(chrome.id);
    for (const look of now().looks) for (const rule of look.chart) expect(rule.finish).not.toBe(chrome.id);
    for (const piece of now().pieces) expect(piece.finish).not.toBe(chrome.id);
    undo();
    expect(now()).toBe(dressed);
  });

  it('added twice get names of their own', () => {
    const source = now().finishes[0];
    const ids = [actions.addFinish(source), actions.addFinish(source), actions.addFinish(null)];
    const names = ids.map((id) => now().finishes.find((f) => f.id === id)!.name);
    expect(names).toEqual([`${source.name} 2`, `${source.name} 3`, 'New finish']);
    expect(useChoice.getState().finish).toBe(ids[2]);
    actions.set(`finishes/${ids[0]}/surface/specular_roughness`, 0.77);
    expect(now().finishes[0].surface.specular_roughness).toBe(source.surface.specular_roughness);
  });
});

describe('lights and looks', () => {
  it('copies and mirrors a light to the other side', () => {
    actions.addThreePoint();
    const [key] = now().looks[0].rig;
    actions.copyLight(key.id, true);
    const made = now().looks[0].rig.at(-1)!;
    expect(made).toMatchObject({ azimuth: -key.azimuth, elevation: key.elevation, name: 'Key 3' });
    expect(made.id).not.toBe(key.id);
    expect(useChoice.getState().light).toBe(made.id);
    actions.removeLight(made.id);
    // three beside the one that was there
    expect(now().looks[0].rig).toHaveLength(4);
  });

  it('edits the look in use alone, and a project never runs out of looks', () => {
    const second = actions.addLook();
    useChoice.setState({ lookId: second });
    actions.setExposure(3);
    actions.setExposure(90);
    expect(now().looks.map((l) => l.grade.exposure)).toEqual([0, 20]);
    actions.removeLook(second);
    actions.removeLook(now().looks[0].id);
    expect(now().looks).toHaveLength(1);
    expect(now().looks[0].name).toBe(newLook('First look').name);
  });

  it('goes back to a kept state without losing the name, looks and finishes made since', () => {
    const kept = structuredClone(now());
    actions.change('Rename', (p) => void (p.name = 'Tide Bar'));
    const look = actions.addLook();
    const finish = actions.addFinish(null);
    actions.setText(now().blocks[0].id, 'ELSE');
    actions.goBackTo('First look 1', kept);
    expect(now().blocks).toEqual(kept.blocks);
    expect(now().name).toBe('Tide Bar');
    expect(now().looks.map((l) => l.id)).toEqual([...kept.looks.map((l) => l.id), look]);
    expect(now().finishes.at(-1)!.id).toBe(finish);
    undo();
    expect(now().blocks[0].text).toBe('ELSE');
  });
});
