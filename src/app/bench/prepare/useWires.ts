import * as Comlink from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Marks } from '../../../core/formats/marks';
import type { FitnessOfView, SolveWorker, Suggestion, Wire } from '../../../vision/workers/solve.worker';

export interface Solved {
  readonly wires: readonly Wire[];
  /** What the view can judge; undefined until the instrument is placed. */
  readonly fitness?: FitnessOfView | undefined;
  /** Why nothing could be solved; undefined when it could, or too little is marked. */
  readonly problem?: string;
}

const MIN_POINTS = 4;

/** Solves the instrument anew after each change of the marks, in a worker. */
export function useWires(marks: Marks | undefined): Solved & { suggest: (t: number, picture: ImageBitmap) => Promise<Suggestion> } {
  const [solved, setSolved] = useState<Solved>({ wires: [] });
  const client = useRef<{ api: Comlink.Remote<SolveWorker>; worker: Worker }>(undefined);
  useEffect(() => {
    const worker = new Worker(new URL('../../../vision/workers/solve.worker.ts', import.meta.url), { type: 'module' });
    client.current = { api: Comlink.wrap<SolveWorker>(worker), worker };
    return () => worker.terminate();
  }, []);
  useEffect(() => {
    const enough = marks?.frames.some((f) => Object.keys(f.points).filter((n) => n.startsWith('instrument.')).length >= MIN_POINTS);
    if (!marks || !enough) {
      setSolved({ wires: [] });
      return;
    }
    let stale = false;
    client.current?.api
      .wires(marks)
      .then((wires) => {
        if (stale) return;
        setSolved((before) => ({ wires, fitness: before.fitness }));
        return client.current?.api.fitness(marks).then((fitness) => !stale && setSolved({ wires, fitness }));
      })
      .catch((error: Error) => !stale && setSolved({ wires: [], problem: error.message }));
    return () => {
      stale = true;
    };
  }, [marks]);
  return { ...solved, suggest: (t, picture) => client.current!.api.suggest(marks!, t, picture) };
}
