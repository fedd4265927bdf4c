/** What stands on the dome map: lights and panels by where they are seen from the type, how large, and behind what. */
import type { Light, Look, Panel } from '@wemlox/core/document';
import { bearingOf, frameOf, standingOf } from '@wemlox/core/light/placing';
import { intoPicture, outOfPicture } from '@wemlox/core/light/surround';

export interface DomeMark {
  id: string;
  name: string;
  of: { light: Light } | { panel: Panel };
  on: boolean;
  azimuth: number;
  elevation: number;
  /** Metres from what it looks at; nothing for what is infinitely far away. */
  distance: number | null;
  /** Half the angle it takes of the sphere, radians; 0 for points. */
  radius: number;
  /** Name of what stands before it. */
  behind: string | null;
}

/** Half of what a light is wide, metres, or the angle itself for what is infinitely far away. */
function halfOf(light: Light): number {
  switch (light.kind) {
    case 'area':
    case 'card':
      return Math.max(light.width, light.height) / 2;
    case 'point':
      return light.radius;
    default:
      return 0;
  }
}

function markOf(light: Light): Omit<DomeMark, 'behind'> {
  const { azimuth, elevation, distance } = standingOf(light);
  const far = !('stands' in light);
  const radius =
    light.kind === 'directional' ? light.size / 2 : far ? 0 : Math.atan(halfOf(light) / distance);
  return {
    id: light.id,
    name: light.name,
    of: { light },
    on: light.on,
    azimuth,
    elevation,
    distance: far ? null : distance,
    radius,
  };
}

/** Angle between two directions. */
function between(a: DomeMark, b: DomeMark): number {
  const [p, q] = [frameOf(a).away, frameOf(b).away];
  return Math.acos(Math.min(1, Math.max(-1, p[0] * q[0] + p[1] * q[1] + p[2] * q[2])));
}

/** Lights, then panels; what is all around stands nowhere. */
export function marksOf({ rig, surround }: Look): DomeMark[] {
  const into = intoPicture(surround);
  const lights = rig.filter((l) => l.kind !== 'ambient').map(markOf);
  const panels = surround.panels
    .filter((p) => p.shape !== 'band' && p.shape !== 'ramp')
    .map((panel): Omit<DomeMark, 'behind'> => ({
      id: panel.id,
      name: panel.name,
      of: { panel },
      on: panel.on,
      ...bearingOf(outOfPicture(into, ...frameOf(panel).away)),
      distance: null,
      radius: Math.max(panel.width, panel.height) / 2,
    }));
  const marks = [...lights, ...panels].map((m): DomeMark => ({ ...m, behind: null }));
  for (const mark of marks) {
    const before = marks.find(
      (other) =>
        other !== mark &&
        other.on &&
        other.distance !== null &&
        other.distance < (mark.distance ?? Infinity) &&
        other.radius > 0 &&
        between(mark, other) < other.radius,
    );
    mark.behind = before?.name ?? null;
  }
  return marks;
}
