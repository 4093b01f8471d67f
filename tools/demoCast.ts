import { BACK_POINTS } from '../src/core/body/lumbarArch';
import { withFaults } from '../synth/presets/faults';
import { scenarioOf } from '../synth/presets/presets';
import type { PlayedFault, Scenario, StrokeSpec } from '../synth/presets/scenario';

/** A student of the demo: invented, like the islands. `seed` gives face, clothes and instrument. */
interface CastMember {
  readonly id: string;
  readonly name: string;
  readonly family: 'violin' | 'viola' | 'cello';
  readonly size: string;
  /** When they began, ISO date. */
  readonly startedOn: string;
  readonly rubric: string;
  readonly place: string;
  readonly seed: number;
  readonly always?: Partial<Scenario>;
}

export const CAST: readonly CastMember[] = [
  { id: 'ilvi', name: 'Ilvi', family: 'violin', size: '4/4', startedOn: '2024-09-02', rubric: 'middle-of-strip', place: 'Quernsay', seed: 1, always: { stature: 1590 } },
  { id: 'bram', name: 'Bram', family: 'violin', size: '1/2', startedOn: '2026-02-02', rubric: 'middle-of-strip', place: 'Quernsay', seed: 31 },
  { id: 'oda', name: 'Oda', family: 'violin', size: '3/4', startedOn: '2026-01-12', rubric: 'parallel-arm', place: 'Quernsay', seed: 23 },
  { id: 'tavi', name: 'Tavi', family: 'violin', size: '1/4', startedOn: '2026-09-14', rubric: 'middle-of-strip', place: 'Orrey', seed: 35 },
  { id: 'sunniva', name: 'Sunniva', family: 'viola', size: '15"', startedOn: '2023-09-04', rubric: 'middle-of-strip', place: 'Orrey', seed: 25 },
  { id: 'marek', name: 'Marek', family: 'cello', size: '3/4', startedOn: '2026-03-09', rubric: 'middle-of-strip', place: 'Orrey', seed: 11 },
  {
    id: 'joss',
    name: 'Joss',
    family: 'violin',
    size: '4/4',
    startedOn: '2024-01-15',
    rubric: 'middle-of-strip',
    place: 'Skarva',
    seed: 36,
    always: { leftHanded: true, stature: 1560 },
  },
  { id: 'nell', name: 'Nell', family: 'violin', size: '3/4', startedOn: '2023-01-16', rubric: 'middle-of-strip', place: 'Skarva', seed: 10 },
];

/** The teacher's next ferries. */
export const ROUND = [
  { place: 'Quernsay', nextVisit: '2026-11-30' },
  { place: 'Orrey', nextVisit: '2026-12-01' },
  { place: 'Skarva', nextVisit: '2026-12-03' },
];

/** A true vertical of the room, as its points are named in the truth. */
export const PLUMB = ['room.plumb.high', 'room.plumb.low'] as const;

export interface DemoTake {
  readonly id: string;
  readonly studentId: string;
  readonly title: string;
  readonly filmedOn: string;
  readonly scenario: Scenario;
  /** Marks of instrument and bow come with it; else the teacher places them. */
  readonly marked: boolean;
  /** Points of the player marked too, and {@link PLUMB}. */
  readonly alsoMarked: readonly string[];
}

const bows = (string: number, count: number, seconds: number, finger?: number): StrokeSpec[] =>
  Array.from({ length: count }, (_, i) => ({ string, direction: i % 2 ? 'up' : 'down', seconds, part: [0.05, 0.92], rest: 0.04, ...(finger ? { finger } : {}) }));
/** One bow a note: string and finger each. */
const tune = (notes: readonly (readonly [string: number, finger: number])[], seconds: number): StrokeSpec[] =>
  notes.map(([string, finger], i) => ({ string, finger, direction: i % 2 ? 'up' : 'down', seconds, part: [0.15, 0.85], rest: 0.03 }));

const SMALL = { width: 960, height: 540, bitrate: 1_150_000 } as const;
const TALL = { width: 540, height: 960, bitrate: 1_150_000 } as const;

function take(
  id: string,
  studentId: string,
  title: string,
  filmedOn: string,
  preset: string,
  changes: Partial<Scenario>,
  faults: readonly PlayedFault[] = [],
  marked = true,
  alsoMarked: readonly string[] = [],
): DemoTake {
  const student = CAST.find((s) => s.id === studentId)!;
  const scenario = scenarioOf(preset, student.seed, { ...SMALL, family: student.family, size: student.size, ...student.always, ...changes });
  return { id, studentId, title, filmedOn, scenario: { ...withFaults(scenario, faults), name: id }, marked, alsoMarked };
}

const fault = (id: string, strength = 1): PlayedFault => ({ id, strength });
const LARGE = { width: 1280, height: 720, bitrate: 2_400_000 } as const;
const CROSSING = [0, 1, 2, 3, 2, 1].flatMap((string, i): StrokeSpec[] => [{ string, direction: i % 2 ? 'up' : 'down', seconds: 1, part: [0.08, 0.9], rest: 0.04 }]);

/** The outline of the back, and a plumb line. */
const BACK = [...BACK_POINTS.map((p) => `body.back.${p}`), ...PLUMB];

/** What came in over three weeks; the first two are the same student before and after a week of practice. */
export const DEMO_TAKES: readonly DemoTake[] = [
  take('ilvi-long-bows', 'ilvi', 'long bows on the open A, before the ferry', '2026-11-10', 'arc-to-fingerboard', LARGE),
  take('ilvi-tube-glide', 'ilvi', 'long bows on the open A, after a week of practice', '2026-11-17', 'straight', LARGE),
  take('ilvi-hand', 'ilvi', 'the bow hand from close by', '2026-11-17', 'hand-front', { strokes: bows(2, 2, 2) }, [], false),
  take('bram-open-d', 'bram', 'slow bows on the open D', '2026-11-12', 'straight', { strokes: bows(1, 4, 1.3) }, [fault('tip-to-scroll', 1.4)]),
  take(
    'bram-steps',
    'bram',
    'five notes up and down',
    '2026-11-19',
    'straight',
    {
      strokes: tune(
        [
          [1, 0],
          [1, 1],
          [1, 2],
          [1, 3],
          [2, 0],
          [1, 3],
          [1, 2],
          [1, 1],
        ],
        0.75,
      ),
    },
    [fault('on-fingerboard', 0.8)],
  ),
  take('bram-hand', 'bram', 'the hold, from the front', '2026-11-19', 'hand-front', { strokes: bows(1, 2, 2) }, [fault('little-straight')], false),
  take('oda-crossings', 'oda', 'all four strings, one bow each', '2026-11-12', 'crossings', { strokes: CROSSING }, [fault('crossing-late')]),
  take('oda-whole', 'oda', 'the whole player', '2026-11-19', 'whole-body', { ...TALL, strokes: bows(2, 4, 1.3) }, [fault('scroll-droops', 1.1), fault('leaning', 1.3)]),
  take('tavi-first-bows', 'tavi', 'first long bows', '2026-11-11', 'straight', { strokes: bows(2, 4, 1.2) }, [fault('instrument-moves', 1.2)]),
  take('tavi-middle', 'tavi', 'short bows in the middle', '2026-11-18', 'straight', { strokes: bows(2, 7, 0.7) }, [fault('small-part-of-bow'), fault('at-bridge', 0.9)]),
  take('tavi-ready', 'tavi', 'from rest to the first bows', '2026-11-18', 'ready', { ...TALL, width: 720, height: 1280, bitrate: 1_500_000, strokes: bows(2, 3, 1.2) }),
  take('tavi-thumb', 'tavi', 'the thumb, from below', '2026-11-18', 'hand-low', { strokes: bows(2, 2, 2) }, [fault('thumb-straight')], false),
  take('sunniva-long', 'sunniva', 'long bows on the G', '2026-11-11', 'viola', { strokes: bows(1, 4, 1.5) }, [fault('tip-to-player')]),
  take(
    'sunniva-tune',
    'sunniva',
    'a tune of her own',
    '2026-11-18',
    'viola',
    {
      strokes: tune(
        [
          [2, 0],
          [2, 1],
          [2, 2],
          [3, 0],
          [2, 2],
          [2, 1],
          [2, 0],
        ],
        0.85,
      ),
    },
    [fault('neighbour-touched', 0.9)],
  ),
  take('marek-open', 'marek', 'open strings, slowly', '2026-11-11', 'cello', { heading: 163, pitch: 60, roll: 0, strokes: bows(2, 4, 1.4) }),
  take('marek-drift', 'marek', 'long bows on the D', '2026-11-18', 'cello', { heading: 163, pitch: 60, roll: 0, strokes: bows(2, 4, 1.4) }, [fault('contact-drifts')]),
  take('joss-left', 'joss', 'long bows, left-handed set-up', '2026-11-13', 'left-handed', { strokes: bows(2, 4, 1.4) }, [fault('contact-drifts')], false),
  take('joss-profile', 'joss', 'from the side', '2026-11-20', 'profile', { ...TALL, strokes: bows(1, 3, 1.4) }, [fault('back-hollow')], true, BACK),
  take('nell-scale', 'nell', 'a scale on two strings', '2026-11-13', 'straight', {
    strokes: tune(
      [
        [1, 0],
        [1, 1],
        [1, 2],
        [1, 3],
        [2, 0],
        [2, 1],
        [2, 2],
        [2, 3],
      ],
      0.75,
    ),
  }),
  take('nell-crossings', 'nell', 'round the strings', '2026-11-20', 'scroll-side', { strokes: CROSSING }),
];
