/** Exposure and view transform of the look. */
import { useLook } from '../state/chosen.ts';
import { ParameterRows } from './ParameterRow.tsx';

export function GradeRows() {
  const { id } = useLook();
  return <ParameterRows of={`looks/${id}/grade`} />;
}
