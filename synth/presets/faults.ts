import type { HoldSpec } from '../figure/bowHold';
import type { Posture } from '../figure/posture';
import type { Course } from '../motion/course';
import { statureOf } from '../motion/performance';
import type { PlayedFault, Scenario, StrokeSpec } from './scenario';

/** Changes a scenario by a fault of some strength. */
type Play = (scenario: Scenario, strength: number) => Partial<Scenario>;

const posture =
  (change: (s: number, p: Posture) => Partial<Posture>): Play =>
  (scenario, s) => ({ posture: { ...scenario.posture, ...change(s, scenario.posture) } });
const hold = (change: (s: number, h: HoldSpec) => Partial<HoldSpec>): Play => posture((s, p) => ({ hold: { ...p.hold, ...change(s, p.hold) } }));
const plus = (course: Course, by: Course, s: number): Course => course.map((v, i) => v + s * by[i]!) as unknown as Course;
const skew =
  (by: Course): Play =>
  (scenario, s) => ({ skew: plus(scenario.skew, by, s) });
const contact =
  (by: Course): Play =>
  (scenario, s) => ({ contact: plus(scenario.contact, by, s) });
const level =
  (by: Course): Play =>
  (scenario, s) => ({ levelOffset: plus(scenario.levelOffset, by, s) });
const strokes =
  (change: (stroke: StrokeSpec, index: number, s: number) => Partial<StrokeSpec>): Play =>
  (scenario, s) => ({
    strokes: scenario.strokes.map((stroke, i) => ({ ...stroke, ...change(stroke, i, s) })),
  });
const both =
  (first: Play, second: Play): Play =>
  (scenario, s) => {
    const changed = first(scenario, s);
    return { ...changed, ...second({ ...scenario, ...changed }, s) };
  };

/** The stroke in the other direction where as many strokes before it were odd in number. */
const turned = (stroke: StrokeSpec, before: number): StrokeSpec => (before % 2 === 0 ? stroke : { ...stroke, direction: stroke.direction === 'down' ? 'up' : 'down' });

/** A part of the bow drawn toward its middle, or a smaller share of it. */
const narrowed = ([a, b]: readonly [number, number], share: number, about: number): readonly [number, number] => [about + (a - about) * share, about + (b - about) * share];

/** A level that lies on the edge to the lower neighbour, degrees off the string's own. */
const BETWEEN_STRINGS: Course = [6.5, 6.5, 6.5, 6.5];

/** Faults that can be played, by the ids of the catalogue: of violin and viola, and three of the cellist's seat. */
export const FAULTS: Record<string, Play> = {
  'scroll-droops': (sc, s) => ({ pitch: sc.pitch - 22 * s }),
  'scroll-too-high': (sc, s) => ({ pitch: sc.pitch + 20 * s }),
  'instrument-in-front': (sc, s) => ({ heading: sc.heading - 26 * s }),
  'instrument-too-far-left': (sc, s) => ({ heading: sc.heading + 30 * s }),
  'instrument-too-flat': (sc, s) => ({ roll: sc.roll - 19 * s }),
  'instrument-too-steep': (sc, s) => ({ roll: sc.roll + 30 * s }),
  'instrument-moves': (sc, s) => ({ instrumentSwing: sc.instrumentSwing + 5 * s }),
  'left-elbow-on-ribs': posture((s) => ({ leftElbowIn: s })),
  'left-wrist-collapsed': posture((s, p) => ({ fret: { ...p.fret, collapse: s } })),
  'back-hollow': posture((s) => ({ hollow: 55 * s })),
  leaning: posture((s) => ({ lean: 12 * s })),
  'shoulder-raised': posture((s) => ({ shoulderLift: 75 * s })),
  'head-clamped': posture((s) => ({ headTilt: 17 * s })),
  'head-over-turned': posture((s) => ({ headTurn: 28 * s })),
  'feet-not-set': posture((s, p) => ({ stance: p.stance - 0.1 * s })),
  'cello-seat-height': posture((s) => ({ seatHeight: 150 * s })),
  'cello-feet-not-set': posture((s) => ({ feetIn: 0.09 * s })),
  'cello-leaning-off': (sc, s) => ({ pitch: sc.pitch + 22 * s }),
  'thumb-straight': hold((s, h) => ({ thumbBend: h.thumbBend - 35 * s })),
  'thumb-bent-back': hold((s, h) => ({ thumbBend: h.thumbBend - 62 * s })),
  'hand-closed': hold((s) => ({ closed: 36 * s })),
  'little-straight': hold((s) => ({ littleBend: s > 0.5 ? 4 : 72 })),
  'little-collapsed': hold((s) => ({ littleBend: s > 0.5 ? -28 * s : 72 })),
  'little-off-stick': hold((s) => ({ littleLift: 26 * s })),
  'fingers-perched': hold((s) => ({ depth: -20 * s })),
  'fingers-too-deep': hold((s) => ({ depth: 16 * s })),
  'fingers-bunched': hold((s) => ({ spacing: 1 - 0.42 * s })),
  'fingers-spread': hold((s) => ({ spacing: 1 + 0.4 * s })),
  'index-stretched': hold((s) => ({ indexStretch: 26 * s })),
  'hand-rigid': hold((s) => ({ rigid: s })),
  'wrist-bent': hold((s) => ({ wristRise: 52 * s })),
  'tip-to-scroll': both(skew([0, 0, 9, 17]), contact([0, 0, 0.1, 0.22])),
  'tip-to-player': both(skew([0, 0, -8, -15]), contact([0, 0, 0.06, 0.12])),
  'crooked-at-frog': skew([15, 6, 0, 0]),
  'bow-arcs': skew([-12, -4, 5, 13]),
  // The elbow keeps its angle and the whole arm swings about the shoulder: the hand goes round.
  'stroke-from-shoulder': both(skew([0, 4, 16, 26]), contact([0, 0.02, 0.12, 0.26])),
  // An instrument too large for its player.
  'right-angle-missed': (sc, s) => ({ stature: (sc.stature ?? statureOf(sc.size, sc.family)) * (1 - 0.26 * s) }),
  'elbow-behind': both(
    skew([0, 0, 7, 13]),
    posture((s) => ({ elbowBack: s })),
  ),
  'on-fingerboard': contact([0.55, 0.55, 0.55, 0.55]),
  'at-bridge': contact([-0.34, -0.36, -0.36, -0.34]),
  'contact-drifts': contact([0, 0.02, 0.18, 0.4]),
  'contact-jumps': (sc, s) => ({ contactJump: sc.contactJump + 0.34 * s }),
  'elbow-too-low': posture((s) => ({ elbowLevel: -24 * s })),
  'elbow-too-high': posture((s) => ({ elbowLevel: 20 * s })),
  'elbow-wrist-apart': posture((s) => ({ elbowLevel: -26 * s })),
  // Over the bow's level near the frog, under it near the tip.
  'arm-not-parallel': posture((s) => ({ elbowCourse: [16 * s, 10 * s, -10 * s, -20 * s] })),
  'levels-not-distinct': posture((s) => ({ levelShare: 1 - 0.75 * s })),
  'level-lost': both(
    level([0, 0, 4, 8]),
    posture((s) => ({ elbowCourse: [0, 0, -8 * s, -20 * s] })),
  ),
  'crossing-late': posture((s) => ({ elbowLag: 0.2 * s })),
  'crossing-early': posture((s) => ({ elbowLag: -0.28 * s })),
  'neighbour-touched': level(BETWEEN_STRINGS),
  'uneven-shares': strokes((stroke, i, s) => ({ part: i % 4 === 1 || i % 4 === 2 ? narrowed(stroke.part, 1 - 0.5 * s, stroke.part[1]) : stroke.part })),
  'small-part-of-bow': strokes((stroke, _, s) => ({ part: narrowed(stroke.part, 1 - 0.72 * s, 0.5) })),
  'runs-out-of-bow': strokes((_, __, s) => (s > 0 ? { part: [0.01, 0.99], squeezed: s } : {})),
  'speed-collapses': strokes((_, __, s) => ({ stalls: s })),
  'slow-recovery': (sc, s) => (s > 0 ? { contactStray: 0.36 * s, strokes: [...sc.strokes, ...sc.strokes.map((stroke) => turned(stroke, sc.strokes.length)), ...sc.strokes] } : {}),
  // What is heard: over the fingerboard, at the bridge, slow and near the bridge, between two strings.
  airy: contact([0.3, 0.3, 0.3, 0.3]),
  glassy: contact([-0.2, -0.2, -0.2, -0.2]),
  scratchy: both(
    contact([-0.34, -0.34, -0.34, -0.34]),
    strokes((stroke, _, s) => ({ part: narrowed(stroke.part, 1 - 0.85 * s, 0.5) })),
  ),
  'two-strings': level(BETWEEN_STRINGS),
  'extra-noise-at-start': strokes((_, __, s) => ({ pressedStart: s })),
  'stops-between-strokes': strokes((stroke, _, s) => ({ rest: stroke.rest + 0.45 * s })),
};

/** The scenario with faults played into it, one after the other. @throws RangeError for an unknown id. */
export function withFaults(scenario: Scenario, faults: readonly PlayedFault[]): Scenario {
  let played: Scenario = { ...scenario, faults: [...scenario.faults, ...faults] };
  for (const { id, strength } of faults) {
    const play = FAULTS[id];
    if (!play) throw new RangeError(`There is no fault "${id}" that can be played. Known: ${Object.keys(FAULTS).join(', ')}.`);
    played = { ...played, ...play(played, strength) };
  }
  return played;
}
