import { type Camera, project } from '../geometry/camera';
import { toOuter } from '../geometry/pose';
import { mix, type Vec2, type Vec3 } from '../geometry/vec3';
import type { InstrumentModel } from '../instrument/landmarks';
import type { TrackedFrame } from '../measures/measureFrames';
import { hangs } from './hangs';
import { neckHandPlace } from './neckHandPlace';
import { type BodySighting, seenTorso } from './sighting';

/** How a violin or viola was held: under the arm, at the shoulder with the left hand at the neck, or at the shoulder without it. */
export type HoldKind = 'rest' | 'playing' | 'hands-free';

/** One hold, seconds from the first frame. */
export interface Hold {
  readonly kind: HoldKind;
  readonly from: number;
  readonly to: number;
}

export interface HoldEvidence {
  readonly camera: Camera;
  readonly model: InstrumentModel;
  readonly tracked: readonly TrackedFrame[];
  readonly bodies: readonly BodySighting[];
  /** Likely height of the player, mm. */
  readonly stature: number;
}

/** The end button of an instrument in playing position is this near the place between breastbone and left shoulder (share of the torso, ours). */
const AT_SHOULDER = 0.6;
const BETWEEN = 0.35;
/**
 * A left wrist within so many hands of the neck is there, one further than the second is away. Between them nothing is
 * told: networks lose hands at the neck by up to one, and put an arm hidden by the instrument near it (0.3 to 0.5 in
 * our own film from the front; ours).
 */
const THERE = 0.25;
const AWAY = 1.25;
/** A hand seen at the neck, which is looked for now and then, speaks for so long before and after: alone, and against a wrist that is away (seconds). */
const HAND_SPEAKS = { alone: 2, against: 0.6 } as const;
/** Shorter holds are the way from one to the next, seconds (ours). */
const SHORTEST = 0.7;
const LEAST_LOOKS = 3;
/** Looks further apart tell nothing of the time between, seconds. */
const LONGEST_GAP = 1;

/** Rest position, playing position and holds without the left hand, in order; what could not be told is left out. For instruments held at the shoulder. */
export function holdsOf(evidence: HoldEvidence): Hold[] {
  const place = new Map(evidence.tracked.map((f) => [f.index, f]));
  const handsAtNeck = evidence.bodies.filter((b) => b.neckHand).map((b) => b.t);
  const looks = evidence.bodies.flatMap((body) => {
    const kind = kindOf(evidence, body, place.get(body.frame), handsAtNeck);
    return kind ? [{ t: body.t, kind }] : [];
  });
  // One look that differs from both its neighbours is a mistake.
  const calm = looks.map((look, k) => {
    const [before, after] = [looks[k - 1]?.kind, looks[k + 1]?.kind];
    return before !== undefined && before === after ? { ...look, kind: before } : look;
  });
  const runs: { kind: HoldKind; from: number; to: number; looks: number }[] = [];
  for (const { t, kind } of calm) {
    const last = runs.at(-1);
    if (last?.kind === kind && t - last.to < LONGEST_GAP) {
      last.to = t;
      last.looks++;
    } else {
      // The change is half way between the looks.
      const from = last && t - last.to < LONGEST_GAP ? (last.to + t) / 2 : t;
      if (last && t - last.to < LONGEST_GAP) last.to = from;
      runs.push({ kind, from, to: t, looks: 1 });
    }
  }
  const long = runs.filter((r) => r.to - r.from >= SHORTEST && r.looks >= LEAST_LOOKS).map(({ kind, from, to }): Hold => ({ kind, from, to }));
  // What a passing moment divided is one hold.
  return long.reduce<Hold[]>((out, run) => {
    const last = out.at(-1);
    if (last?.kind === run.kind && run.from - last.to < SHORTEST) out[out.length - 1] = { ...last, to: run.to };
    else out.push(run);
    return out;
  }, []);
}

function kindOf({ camera, model, stature }: HoldEvidence, { t, joints }: BodySighting, frame: TrackedFrame | undefined, handsAtNeck: readonly number[]): HoldKind | undefined {
  if (!joints) return undefined;
  const torso = seenTorso(joints);
  const at = (j: keyof typeof joints): Vec3 => [...joints[j].point, 0];
  const chest = mix(at('shoulder.right'), at('shoulder.left'), 0.5);
  const apart = (a: Vec3 | Vec2, b: Vec3 | Vec2) => Math.hypot(a[0] - b[0], a[1] - b[1]);
  const bothLow = hangs(joints, 'wrist.left') && hangs(joints, 'wrist.right');
  const pose = frame?.pose;
  if (!pose) return bothLow ? 'rest' : undefined;
  const button = project(camera, toOuter(pose, model.landmarks['instrument.endButton']));
  const neck = neckHandPlace(camera, pose, model, stature);
  if (!button || !neck) return undefined;
  if (apart(button, mix(chest, at('shoulder.left'), BETWEEN)) > AT_SHOULDER * torso) return bothLow ? 'rest' : undefined;
  const handWithin = (seconds: number) => handsAtNeck.some((h) => Math.abs(h - t) < seconds);
  const away = apart(at('wrist.left'), neck.centre) / neck.side;
  if (away > AWAY) return handWithin(HAND_SPEAKS.against) ? 'playing' : 'hands-free';
  return away < THERE || handWithin(HAND_SPEAKS.alone) ? 'playing' : undefined;
}
