/** What moves in a shot, gathered by what it belongs to, in the order of the document. */
import { blockName, type Project } from '../document/index.ts';

export interface MotionGroup {
  /** Address of what its rows belong to. */
  of: string;
  name: string;
  /** As history calls it, within the names of what is its own. */
  owner: string;
  addresses: string[];
}

interface Owner {
  /** Beginning of the addresses of what belongs to it. */
  of: string;
  name: string;
  owner?: string;
}

/** What things that move belong to, in the order of the document. */
function* ownersOf({ blocks, finishes, pieces, looks, shots }: Project): Generator<Owner> {
  for (const block of blocks) yield { of: `blocks/${block.id}/`, name: blockName(block) };
  for (const { id, name } of finishes) yield { of: `finishes/${id}/`, name };
  for (const { id, name } of pieces) yield { of: `pieces/${id}/`, name };
  for (const look of looks) {
    const told = looks.length > 1 ? `, ${look.name}` : '';
    for (const { id, name } of look.rig)
      yield { of: `looks/${look.id}/rig/${id}/`, name: `${name}${told}`, owner: name };
    yield { of: `looks/${look.id}/surround/`, name: `Surround${told}`, owner: 'the surround' };
    yield { of: `looks/${look.id}/`, name: `Picture${told}` };
  }
  for (const { id, name } of shots) {
    yield { of: `shots/${id}/camera/`, name: shots.length > 1 ? `Camera, ${name}` : 'Camera' };
    yield { of: `shots/${id}/`, name };
  }
}

/** Groups of addresses, in the order of the document; what leads nowhere is left out. */
export function grouped(project: Project, addresses: Iterable<string>): MotionGroup[] {
  const left = new Set([...addresses].sort());
  const groups: MotionGroup[] = [];
  for (const { of, name, owner = name } of ownersOf(project)) {
    const own = [...left].filter((address) => address.startsWith(of));
    for (const address of own) left.delete(address);
    if (own.length > 0) groups.push({ of, name, owner, addresses: own });
    if (left.size === 0) break;
  }
  return groups;
}
