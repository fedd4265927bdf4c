/** Edits of parameters by their address. */
import { fitting, historyName, parameterAt, type Placed, type Project } from '../document/index.ts';
import { EditRefused, type Edit } from './edit.ts';

function placedAt(project: Project, address: string): Placed {
  const placed = parameterAt(project, address);
  if (!placed) throw new EditRefused(`there is no ${address} any more`);
  return placed;
}

/**
 * Sets a parameter, brought into its range.
 * @throws EditRefused when there is none, or the value is of another kind
 */
export function setParameter(project: Project, address: string, value: unknown, joins = false): Edit {
  const placed = placedAt(project, address);
  const near = fitting(placed.parameter, value);
  if (near === null) throw new EditRefused(`${placed.parameter.name} cannot be ${JSON.stringify(value)}`);
  return {
    label: historyName(project, placed, near),
    joins,
    make: (draft) => {
      const { owner, key } = placedAt(draft, address);
      owner[key] = near;
    },
  };
}

/**
 * Sets a parameter, and the like of others with it: numbers move by as much, or by the same ratio where their fader
 * does; all else becomes the same. Those that have no such parameter stay as they are.
 * @param others addresses of what stands beside what the first belongs to
 */
export function setTogether(
  project: Project,
  address: string,
  others: readonly string[],
  value: unknown,
): Edit {
  const first = setParameter(project, address, value);
  const { key, owner, parameter } = placedAt(project, address);
  const before = owner[key];
  const edits = others.flatMap((of) => {
    const placed = parameterAt(project, `${of}/${key}`);
    if (!placed || placed.parameter.kind !== parameter.kind) return [];
    const own = placed.owner[key];
    const byRatio = parameter.kind === 'number' && parameter.log && Number(before) > 0;
    const to =
      parameter.kind !== 'number'
        ? value
        : byRatio
          ? (Number(own) * Number(value)) / Number(before)
          : Number(own) + Number(value) - Number(before);
    return fitting(placed.parameter, to) === null ? [] : [setParameter(project, placed.address, to)];
  });
  return {
    label: edits.length > 0 ? `${first.label}, and ${edits.length} more` : first.label,
    make: (draft) => [first, ...edits].forEach((edit) => edit.make(draft)),
  };
}

/** Moves a point along one of its axes, 0 to 2. @throws EditRefused */
export function setAxis(project: Project, address: string, axis: number, value: number): Edit {
  const { owner, key, parameter } = placedAt(project, address);
  const point = [...(owner[key] as number[])];
  point[axis] = value;
  const edit = setParameter(project, address, point);
  const name = parameter.kind === 'point' ? parameter.axes[axis]?.[0].toLowerCase() : '';
  return { ...edit, label: /^blocks\//.test(address) ? `${edit.label}, ${name}` : edit.label };
}
