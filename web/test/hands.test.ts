// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { meaningOf } from '../src/app/useKeys.ts';
import { numberText, whenText } from '../src/state/language.ts';
import * as actions from './allActions.ts';
import { useRemoving } from '../src/state/choice.ts';
import { history, useStudio } from '../src/state/studio.ts';
import { labelsOf } from '../src/steps/light/domeLabels.ts';
import { wornAt } from '@wemlox/core/edits';
import { finishAt } from '@wemlox/core/document';
import { now, openStudio, shaped } from './openStudio.ts';

beforeEach(() => {
  openStudio();
});
afterEach(() => vi.restoreAllMocks());

describe('keys', () => {
  const key = (k: string, code: string, shiftKey = false) => meaningOf({ key: k, code, shiftKey });
  it('count by what they mean on German and French keyboards', () => {
    // German: / is Shift-7, [ and ] are AltGr-8 and AltGr-9, ? is Shift-ß
    expect(key('/', 'Digit7', true)).toBe('/');
    expect(key('[', 'Digit8')).toBe('[');
    expect(key(']', 'Digit9')).toBe(']');
    expect(key('?', 'Minus', true)).toBe('?');
    // French: digits take Shift, [ is AltGr-5
    expect(key('&', 'Digit1')).toBe('1');
    expect(key('1', 'Digit1', true)).toBe('1');
    expect(key('[', 'Digit5')).toBe('[');
    expect(key('/', 'Period', true)).toBe('/');
    expect(key('U', 'KeyU', true)).toBe('Shift+U');
    expect(key('u', 'KeyU')).toBe('u');
  });
});

describe('languages', () => {
  it.each([
    ['de-DE', '12,50', /25\.11\.2026/],
    ['fr-FR', '12,50', /25 nov/],
    ['en-GB', '12.50', /25 Nov 2026/],
    ['ar-EG', '12.50', /2026/],
  ])('write numbers and dates as %s does', (language, number, date) => {
    vi.spyOn(navigator, 'language', 'get').mockReturnValue(language);
    expect(numberText(12.5, 2).replace('٫', '.')).toBe(number);
    expect(numberText(-3, 0)).toMatch(/^\D?-3$/);
    expect(whenText('2026-11-25T12:00:00Z')).toMatch(date);
  });
});

describe('lights', () => {
  it('added, copied or set in three never land on another', () => {
    for (let i = 0; i < 6; i++) actions.addLight('area');
    actions.addThreePoint();
    actions.copyLight(now().looks[0].rig[0].id, false);
    actions.copyLight(now().looks[0].rig[0].id, true);
    const { rig } = now().looks[0];
    expect(rig.length).toBe(1 + 6 + 3 + 2);
    const toward = (l: (typeof rig)[0]) => [
      Math.cos(l.elevation) * Math.sin(l.azimuth),
      Math.sin(l.elevation),
      Math.cos(l.elevation) * Math.cos(l.azimuth),
    ];
    rig.forEach((a, i) =>
      rig.slice(0, i).forEach((b) => {
        const [p, q] = [toward(a), toward(b)];
        expect(Math.hypot(...p.map((v, k) => v - q[k]))).toBeGreaterThan(0.04);
      }),
    );
    expect(new Set(rig.map((l) => l.name)).size).toBe(rig.length);
  });

  it('have names on the dome map that do not lie over each other, nor over a mark', () => {
    const marks = Array.from({ length: 9 }, (_, i) => ({
      x: 100 + (i % 3) * 20,
      y: 100 + Math.floor(i / 3) * 14,
      name: `Area ${i}`,
    }));
    const labels = labelsOf(marks, 232);
    const boxes = labels.map((l, i) => {
      const width = marks[i].name.length * 4.9;
      const x0 = l.anchor === 'start' ? l.x : l.anchor === 'end' ? l.x - width : l.x - width / 2;
      return [x0, l.y - 7, x0 + width, l.y + 1];
    });
    const meet = (a: number[], b: number[]) => a[0] < b[2] && b[0] < a[2] && a[1] < b[3] && b[1] < a[3];
    boxes.forEach((a, i) => boxes.slice(0, i).forEach((b) => expect(meet(a, b)).toBe(false)));
    boxes.forEach((a, i) =>
      marks.forEach((m, k) => k !== i && expect(meet(a, [m.x - 6, m.y - 6, m.x + 6, m.y + 6])).toBe(false)),
    );
  });
});

describe('pieces and finishes', () => {
  it('a piece comes in a quiet matte of its own, whatever finish is newest', () => {
    actions.addFinish({ ...now().finishes[0], name: 'Loud' });
    for (const kind of ['wall', 'backdrop', 'floor'] as const) {
      actions.addPiece(kind);
      const worn = now().finishes.find((f) => f.id === now().pieces.at(-1)!.finish)!;
      expect(worn.family).toBe('matte paint');
      expect(Math.max(...worn.surface.base_color) - Math.min(...worn.surface.base_color)).toBe(0);
      expect(now().pieces.filter((p) => p.finish === worn.id)).toHaveLength(1);
    }
  });

  it('a finish in use is asked about, told where it is worn, and replaced by another', () => {
    const [worn, other] = now().finishes;
    const first = now().blocks[0].letters[0];
    actions.dressFaces({ block: now().blocks[0].id, letter: first, zone: 'front' }, worn.id);
    actions.askRemoveFinish(worn.id);
    expect(useRemoving.getState().finish).toBe(worn.id);
    expect(now().finishes).toContainEqual(worn);
    expect(wornAt(now(), worn.id).join()).toMatch(/First look: .*Front of O/);
    actions.removeFinish(worn.id, other.id);
    expect(finishAt(now().looks[0].chart, now().blocks[0].id, first, 'front')).toBe(other.id);
    const idle = now().finishes.at(-1)!;
    useRemoving.setState({ finish: null });
    actions.askRemoveFinish(idle.id);
    expect(useRemoving.getState().finish).toBeNull();
    expect(now().finishes).not.toContainEqual(idle);
  });
});

describe('type', () => {
  it('that becomes tubes is dressed as glass over glowing gas, and not over a dress of its own', () => {
    const { id } = now().blocks[0];
    actions.setForm(id, 'tube');
    const surface = (zone: 'glass' | 'gas' | 'electrode') => {
      const finish = finishAt(now().looks[0].chart, id, now().blocks[0].letters[0], zone);
      return now().finishes.find((f) => f.id === finish)!.surface;
    };
    expect(surface('glass').transmission_weight).toBe(1);
    expect(surface('gas').emission_luminance).toBeGreaterThan(0);
    expect(Math.min(...surface('electrode').base_color)).toBeGreaterThan(0.5);
    const dressed = now().looks[0].chart;
    actions.setForm(id, 'bevelled');
    actions.setForm(id, 'tube');
    expect(now().looks[0].chart).toEqual(dressed);
  });

  it('a first word stands with its lowest point on the floor once it is shaped, in one step', () => {
    useStudio.setState({ project: { ...now(), blocks: [] } });
    const before = history().pastStates.length;
    actions.addText();
    const { id } = now().blocks[0];
    shaped(id, { bounds: [-0.5, -0.17, 0.5, 0.15] });
    expect(now().blocks[0].place.position[1]).toBeCloseTo(0.17, 9);
    expect(history().pastStates.length).toBe(before + 1);
  });
});
