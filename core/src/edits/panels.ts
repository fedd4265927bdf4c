/** Edits of the light painted on a look's surround. */
import {
  cutName,
  MOST,
  type Light,
  type Panel,
  type PictureRef,
  type Project,
  type Stop,
} from '../document/index.ts';
import { wrapped } from '../light/placing.ts';
import { found, named, room, within, type Edit } from './edit.ts';
import { copyMotion } from './motion.ts';

const surroundOf = (p: Project, look: string) => found(p.looks, look, 'look').surround;
const panelIn = (p: Project, look: string, id: string) => found(surroundOf(p, look).panels, id, 'panel');

/** Lays panels over the surround, the last on top. */
export function addPanels(project: Project, look: string, panels: readonly Panel[], label?: string): Edit {
  room(surroundOf(project, look).panels, MOST.panels, 'panels on a surround', panels.length);
  return {
    label: label ?? `Add ${panels[0]?.name ?? 'panel'}`,
    make: (p) => {
      const of = surroundOf(p, look).panels;
      for (const panel of panels) of.push(named(panel, of));
    },
  };
}

/** Copies a panel beside itself, under an identifier. */
export function copyPanel(project: Project, look: string, id: string, copy: string): Edit {
  const panel = panelIn(project, look, id);
  const of = surroundOf(project, look).panels;
  room(of, MOST.panels, 'panels on a surround');
  return {
    label: `Copy ${panel.name}`,
    make: (p) => {
      const all = surroundOf(p, look).panels;
      const azimuth = wrapped(
        panel.azimuth + (panel.shape === 'band' || panel.shape === 'ramp' ? 0 : BESIDE),
      );
      all.push(named({ ...structuredClone(panel), id: copy, azimuth: atMost(azimuth) }, all));
      const panels = `looks/${look}/surround/panels`;
      copyMotion(p, `${panels}/${id}`, `${panels}/${copy}`, true);
    },
  };
}

/** A copy stands so far to the right of its original, radians. */
const BESIDE = 0.5;
const atMost = (azimuth: number) => within(azimuth, -Math.PI, Math.PI);

export function removePanel(project: Project, look: string, id: string): Edit {
  return {
    label: `Remove ${panelIn(project, look, id).name}`,
    make: (p) => {
      const of = surroundOf(p, look);
      of.panels = of.panels.filter((panel) => panel.id !== id);
    },
  };
}

export const renamePanel = (_project: Project, look: string, id: string, name: string): Edit => ({
  label: `Name → ${name}`,
  make: (p) => {
    panelIn(p, look, id).name = cutName(name);
  },
});

/** Moves a panel over the sphere, radians. */
export const movePanel = (
  project: Project,
  look: string,
  id: string,
  { azimuth, elevation }: Pick<Panel, 'azimuth' | 'elevation'>,
): Edit => ({
  label: `Move ${panelIn(project, look, id).name}`,
  make: (p) => {
    const panel = panelIn(p, look, id);
    panel.azimuth = atMost(wrapped(azimuth));
    panel.elevation = within(elevation, -Math.PI / 2, Math.PI / 2);
  },
});

/** Lays a panel under or over its neighbour. @param by −1 down, 1 up */
export const raisePanel = (project: Project, look: string, id: string, by: number): Edit => ({
  label: `${by > 0 ? 'Raise' : 'Lower'} ${panelIn(project, look, id).name}`,
  make: (p) => {
    const { panels } = surroundOf(p, look);
    const at = panels.findIndex((panel) => panel.id === id);
    const to = within(at + Math.sign(by), 0, panels.length - 1);
    panels.splice(to, 0, ...panels.splice(at, 1));
  },
});

/** Gives a ramp its stops, from below. @param joins whether it goes on with the change before */
export function setPanelStops(
  project: Project,
  look: string,
  id: string,
  stops: readonly Stop[],
  joins = false,
): Edit {
  room([], MOST.stops, 'stops of a ramp', stops.length);
  return {
    label: `Stops of ${panelIn(project, look, id).name}`,
    joins,
    make: (p) => {
      panelIn(p, look, id).stops = [...stops].sort((a, b) => a.at - b.at).map((s) => ({ ...s }));
    },
  };
}

/** Has a panel show a picture; white for none. */
export const picturePanel = (
  project: Project,
  look: string,
  id: string,
  picture: PictureRef | null,
): Edit => ({
  label: `Picture of ${panelIn(project, look, id).name} → ${picture?.name ?? 'none'}`,
  make: (p) => {
    const panel = panelIn(p, look, id);
    panel.picture = picture && { ...picture };
    panel.shape = 'picture';
  },
});

/** Stretches and turns a panel, radians. */
export const sizePanel = (
  project: Project,
  look: string,
  id: string,
  size: Partial<Pick<Panel, 'width' | 'height' | 'turn'>>,
): Edit => ({
  label: `Size of ${panelIn(project, look, id).name}`,
  joins: true,
  make: (p) => {
    const panel = panelIn(p, look, id);
    if (size.width !== undefined) panel.width = within(size.width, 0.001, 2 * Math.PI);
    if (size.height !== undefined) panel.height = within(size.height, 0.001, 2 * Math.PI);
    if (size.turn !== undefined) panel.turn = within(wrapped(size.turn), -Math.PI, Math.PI);
  },
});

/** Takes a picture in which a surround's panels are painted already: they go from it. */
export const keptSurround = (
  _project: Project,
  look: string,
  { id, name }: { id: string; name: string },
): Edit => ({
  label: `Surround → ${name}`,
  make: (p) => {
    Object.assign(surroundOf(p, look), { source: 'picture', id, name, panels: [] });
  },
});

/** Puts a light in the place of the sun of a surround, and a panel over it. */
export function splitSun(project: Project, look: string, light: Light, cover: Panel): Edit {
  room(found(project.looks, look, 'look').rig, MOST.lights, 'lights in a look');
  room(surroundOf(project, look).panels, MOST.panels, 'panels on a surround');
  return {
    label: 'Part the sun from the surround',
    make: (p) => {
      const of = found(p.looks, look, 'look');
      of.rig.push(named(light, of.rig));
      of.surround.panels.push(named(cover, of.surround.panels));
    },
  };
}
