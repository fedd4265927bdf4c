/** The projects of the start page, a page at a time as they come into sight. */
import { useCallback, useEffect, useRef, useState } from 'react';
import { api } from '../state/api.ts';
import type { ProjectLine, ProjectOrder } from '@wemlox/wire';

/** Projects asked for at once. */
const PAGE = 60;

interface Projects {
  /** How many match; null before the first answer. */
  total: number | null;
  /** The project at a place of the list; undefined until it has been fetched. */
  at: (index: number) => ProjectLine | undefined;
  /** Sees to it that places up to and including `last` are fetched. */
  need: (first: number, last: number) => void;
  reload: () => void;
  failed: string;
}

export function useProjects(search: string, order: ProjectOrder): Projects {
  const [total, setTotal] = useState<number | null>(null);
  const [failed, setFailed] = useState('');
  const [pages, setPages] = useState<ReadonlyMap<number, ProjectLine[]>>(new Map());
  /** Pages under way, of the query they belong to. */
  const asked = useRef<{ round: number; pages: Set<number> }>({ round: 0, pages: new Set() });

  const fetchPage = useCallback(
    (page: number, fresh: boolean) => {
      const { round, pages: underWay } = asked.current;
      if (underWay.has(page)) return;
      underWay.add(page);
      api.projects({ search, order, offset: page * PAGE, limit: PAGE }).then(
        (found) => {
          if (asked.current.round !== round) return;
          setFailed('');
          setTotal(found.total);
          setPages((old) => new Map(fresh ? [] : old).set(page, found.projects));
        },
        (error: Error) => {
          if (asked.current.round !== round) return;
          underWay.delete(page);
          setFailed(error.message);
        },
      );
    },
    [search, order],
  );
  const reload = useCallback(() => {
    asked.current = { round: asked.current.round + 1, pages: new Set() };
    fetchPage(0, true);
  }, [fetchPage]);
  useEffect(reload, [reload]);

  const need = useCallback(
    (first: number, last: number) => {
      for (let page = Math.floor(first / PAGE); page <= Math.floor(last / PAGE); page++)
        fetchPage(page, false);
    },
    [fetchPage],
  );
  const at = (index: number) => pages.get(Math.floor(index / PAGE))?.[index % PAGE];
  return { total, at, need, reload, failed };
}
