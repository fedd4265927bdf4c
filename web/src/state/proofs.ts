/** The kept proofs of the open project. */
import { create } from 'zustand';
import { api } from './api.ts';
import type { ProofLine } from '@wemlox/wire';

interface Proofs {
  project: string;
  list: ProofLine[];
}

export const useProofs = create<Proofs>()(() => ({ project: '', list: [] }));

export async function loadProofs(project: string): Promise<void> {
  const list = await api.proofs(project);
  useProofs.setState({ project, list });
}

export const addProof = (proof: ProofLine) => useProofs.setState((s) => ({ list: [...s.list, proof] }));

/** Newest proof of a look. */
export const latestOf = (list: ProofLine[], look: string) => list.findLast((p) => p.look === look) ?? null;
