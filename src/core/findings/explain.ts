import type { SoundEvents } from '../crossings/soundEvents';
import type { FrameMeasures, Measured, Quantity } from '../measures/measures';
import { type Rubric, type Sound, wordFor } from '../rubric/rubric';
import { mean, median, slope } from '../statistics';
import type { Stroke } from '../strokes/stroke';
import { type Cause, MIN_U } from './causes';
import type { Evidence, Finding } from './finding';

/** What a finding can be explained from. */
export interface Explaining {
  readonly frames: readonly FrameMeasures[];
  readonly strokes: readonly Stroke[];
  /** What was heard; absent without sound. */
  readonly events?: SoundEvents;
  /** Whose words for sounds are used. */
  readonly rubric: Pick<Rubric, 'words'>;
}

/** A trunk this far forward is slouching (degrees, ours). */
const STOOPS = 8;
/** An instrument whose scroll hangs lower than this droops (degrees; the default band's edge). */
const DROOPS = 10;
/** A scroll that sinks so far from a take's beginning to its end has grown heavy (degrees, ours). */
const SINKS = 5;
/** Nearly straight: the arm has no way left (degrees, ours). */
const STRAIGHT = 160;
/** Near the tip (share of the hair). */
const NEAR_TIP = 0.82;
/** Behind the back line, shoulder widths (the default band's edge). */
const BEHIND = 0.05;
/** A well-led wrist turns by some 90 degrees sideways along the bow; by less than this it is locked (degrees a whole bow, ours). */
const WRIST_GIVES = 30;
/** Fingers that change less over a whole bow are rigid (degrees; the band's fault edge). */
const FINGERS_GIVE = 4;
/** A level that the arm takes with it (degrees, ours). */
const ARM_GOES = 4;

/** Middle value and middle doubt of a quantity over some frames; undefined with too few. */
function middleOf(frames: readonly FrameMeasures[], quantity: Quantity): Measured | undefined {
  const values = frames.flatMap((f) => f.values[quantity] ?? []);
  return values.length >= 3 ? { value: median(values.map((v) => v.value)), u: median(values.map((v) => v.u)) } : undefined;
}

const at = (frames: readonly FrameMeasures[], from: number, to = 1.1) =>
  frames.filter((f) => f.values.bow_position && f.values.bow_position.value >= from && f.values.bow_position.value <= to);
const framesOf = ({ frames, strokes }: Explaining, finding: Finding) => strokes.filter((s) => finding.strokes.includes(s.index)).flatMap((s) => frames.slice(s.first, s.last + 1));
const clearly = (m: Measured | undefined, edge: number): m is Measured => m !== undefined && m.value - edge > MIN_U * m.u;
const told = (quantity: string, m: Measured, says: string): Evidence => ({ quantity, value: m.value, u: m.u, says });
const degrees = (m: Measured) => `${Math.abs(m.value).toFixed(0)}°`;

/** Causes of faults by the catalogue's id: a cause with its evidence, evidence alone where none is clear, undefined where nothing was measured. */
const EXPLAINED: Readonly<Record<string, (all: Explaining, finding: Finding) => Cause | undefined>> = {
  'scroll-droops'({ frames }) {
    const stoop = middleOf(frames, 'trunk_stoop_deg');
    const third = Math.floor(frames.length / 3);
    const [early, late] = [middleOf(frames.slice(0, third), 'instrument_pitch_deg'), middleOf(frames.slice(-third), 'instrument_pitch_deg')];
    // What is wrong with the vertical is wrong at both ends alike.
    const sank = early && late && { value: early.value - late.value, u: 1 };
    const evidence = [
      ...(stoop ? [told('trunk_stoop_deg', stoop, `the trunk leans ${degrees(stoop)} ${stoop.value > 0 ? 'forward' : 'back'}`)] : []),
      ...(sank && sank.value > SINKS / 2 ? [told('instrument_pitch_deg', sank, `from beginning to end the scroll sank by ${degrees(sank)}`)] : []),
    ];
    if (clearly(stoop, STOOPS / 2) && stoop.value > STOOPS) return { cause: 'slouching', evidence };
    if (clearly(sank, 0) && sank.value > SINKS) return { cause: 'left-arm-tired', evidence };
    return evidence.length > 0 ? { evidence } : undefined;
  },
  'on-fingerboard'({ frames }) {
    const pitch = middleOf(frames, 'instrument_pitch_deg');
    if (!pitch || pitch.value > -DROOPS / 2) return undefined;
    const evidence = [told('instrument_pitch_deg', pitch, `the scroll hangs ${degrees(pitch)} below level, and the bow slides down to it`)];
    return clearly({ value: -pitch.value, u: pitch.u }, DROOPS / 2) && pitch.value < -DROOPS ? { cause: 'scroll-sank', evidence } : { evidence };
  },
  'thumb-straight': ofHold,
  'thumb-bent-back': ofHold,
  'little-straight': ofHold,
  'little-collapsed': ofHold,
  'hand-closed': ofHold,
  'right-angle-missed'({ frames }, finding) {
    const tip = middleOf(at(frames, NEAR_TIP), 'elbow_angle_deg');
    if (!tip || finding.value.value < 90) return undefined;
    const evidence = [told('elbow_angle_deg', tip, `near the tip the arm is opened to ${degrees(tip)}`)];
    return clearly(tip, STRAIGHT - 20) && tip.value > STRAIGHT ? { cause: 'instrument-too-large', evidence } : { evidence };
  },
  'bow-arcs'(all, finding) {
    const inside = framesOf(all, finding).filter((f) => f.values.wrist_deviation_deg && f.values.bow_position);
    const line =
      inside.length >= 8
        ? slope(
            inside.map((f) => f.values.bow_position!.value),
            inside.map((f) => f.values.wrist_deviation_deg!.value),
          )
        : undefined;
    const wrist = line && { value: Math.abs(line.slope), u: Math.hypot(line.u, mean(inside.map((f) => f.values.wrist_deviation_deg!.u)) / 2) };
    const hands = all.strokes.flatMap((s) => s.handMobility ?? []);
    const hand = hands.length > 0 ? { value: median(hands.map((h) => h.value)), u: median(hands.map((h) => h.u)) } : undefined;
    const evidence = [
      ...(wrist ? [told('wrist_deviation_deg', wrist, `along the bow the wrist turns by ${degrees(wrist)}`)] : []),
      ...(hand ? [told('hand_mobility_deg', hand, `the fingers change by ${degrees(hand)}`)] : []),
    ];
    if (wrist && wrist.value + MIN_U * wrist.u < WRIST_GIVES) return { cause: 'wrist-locked', evidence };
    if (hand && hand.value + MIN_U * hand.u < FINGERS_GIVE) return { cause: 'fingers-rigid', evidence };
    return evidence.length > 0 ? { evidence } : undefined;
  },
  'level-lost'(all, finding) {
    const inside = framesOf(all, finding);
    const middle = middleOf(at(inside, 1 / 3, 2 / 3), 'upper_arm_elevation_deg');
    const end = middleOf(at(inside, NEAR_TIP), 'upper_arm_elevation_deg');
    if (!middle || !end) return undefined;
    const change = { value: end.value - middle.value, u: Math.max(middle.u, end.u) / 2 };
    const evidence = [told('upper_arm_elevation_deg', change, `toward the tip the upper arm ${change.value < 0 ? 'sinks' : 'rises'} by ${degrees(change)}`)];
    return clearly({ value: Math.abs(change.value), u: change.u }, 0) && Math.abs(change.value) > ARM_GOES ? { cause: 'arm-level-wrong', evidence } : { evidence };
  },
};

/** A hold that was good and was lost on the way, or one that is squeezed: its fingers do not give along the bow. */
function ofHold(all: Explaining, finding: Finding): Cause | undefined {
  const third = Math.floor(all.frames.length / 3);
  const quantity = finding.quantity as Quantity;
  const [early, late] = [middleOf(all.frames.slice(0, third), quantity), middleOf(all.frames.slice(-third), quantity)];
  const lost = early && late && { value: early.value - late.value, u: Math.hypot(early.u, late.u) };
  if (clearly(lost, 0) && early!.value >= finding.band[0] && late!.value < finding.band[0]) {
    const number = (m: Measured) => (quantity.endsWith('_deg') ? degrees(m) : m.value.toFixed(1));
    return { cause: 'hold-slipped', evidence: [told(quantity, lost, `at the beginning it was ${number(early!)}, at the end ${number(late!)}`)] };
  }
  const gives = all.strokes.flatMap((s) => s.handMobility ?? []);
  if (gives.length === 0) return undefined;
  const hand = { value: median(gives.map((h) => h.value)), u: median(gives.map((h) => h.u)) };
  const evidence = [told('hand_mobility_deg', hand, `along the bow the fingers change by ${degrees(hand)}`)];
  return hand.value + MIN_U * hand.u < FINGERS_GIVE ? { cause: 'squeezing', evidence } : { evidence };
}

/**
 * What the arm itself says of a bow that turned past the middle: an elbow that went behind the back, or an arm that was
 * at its end before the bow was. Undefined where neither is clear.
 */
function ofTheArm(finding: Finding, { frames }: Explaining): Cause | undefined {
  const inside = frames.filter((f) => finding.stretches.some((s) => f.t >= s.from && f.t <= s.to));
  const behind = middleOf(inside, 'elbow_behind');
  if (clearly(behind, BEHIND)) {
    return { cause: 'elbow-went-behind', evidence: [told('elbow_behind', behind, `the elbow was ${behind.value.toFixed(2)} shoulder widths behind the line of the back`)] };
  }
  const elbow = middleOf(at(inside, NEAR_TIP), 'elbow_angle_deg');
  if (clearly(elbow, STRAIGHT - 15) && elbow.value > STRAIGHT) {
    return { cause: 'stick-too-long', evidence: [told('elbow_angle_deg', elbow, `the arm is stretched to ${degrees(elbow)} before the tip`)] };
  }
  return undefined;
}

/** The sound that goes with a bow out of place: a second witness, never one alone. */
const HEARD: Readonly<Record<string, Sound>> = { 'on-fingerboard': 'airy', 'at-bridge': 'glassy' };
/** Fewer notes, or a smaller share of them, are no witness (ours). */
const LEAST_NOTES = 2;
const LEAST_HEARD = 0.5;

/** What the ear says to a contact point that was seen out of place; nothing where it does not agree. */
function heardToo(finding: Finding, { events, rubric }: Explaining): Evidence[] {
  const sound = HEARD[finding.fault];
  if (!sound || !events) return [];
  const there = events.notes.flatMap((note, i) => (finding.stretches.some((s) => note.from < s.to && note.to > s.from) ? [events.tones[i]] : []));
  const so = there.filter((tone) => tone?.hint === sound);
  if (there.length < LEAST_NOTES || so.length < LEAST_HEARD * there.length) return [];
  const sure = mean(so.map((tone) => tone!.confidence));
  return [{ quantity: 'tone', value: so.length / there.length, u: 1 - sure, says: `${so.length} of ${there.length} notes sound ${wordFor(rubric, sound)} there` }];
}

/** The finding with what explains it beside what it has: its cause first, then what was heard too. */
export function explain(finding: Finding, all: Explaining): Finding {
  const explained = withCause(finding, all);
  const heard = heardToo(finding, all);
  return heard.length > 0 ? { ...explained, evidence: [...explained.evidence, ...heard] } : explained;
}

function withCause(finding: Finding, all: Explaining): Finding {
  if (finding.fault === 'tip-to-scroll' && finding.cause !== 'instrument-turned') {
    const arm = ofTheArm(finding, all);
    return arm?.cause ? { ...finding, cause: arm.cause, evidence: [...finding.evidence, ...arm.evidence] } : finding;
  }
  if (finding.cause !== undefined || finding.evidence.length > 0) return finding;
  const told = EXPLAINED[finding.fault]?.(all, finding);
  return told ? { ...finding, ...told } : finding;
}
