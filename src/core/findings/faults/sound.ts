import type { SoundEvents } from '../../crossings/soundEvents';
import type { FrameMeasures, Quantity } from '../../measures/measures';
import { type Bands, wordFor } from '../../rubric/rubric';
import type { HeardNote } from '../../sound/heard';
import type { ToneHint } from '../../sound/toneWord';
import { mean } from '../../statistics';
import type { Stroke } from '../../strokes/stroke';
import type { CauseId } from '../finding';
import { COUNTED_BOWS, type TakeFault, type TakeNumber } from './fault';

/** A slower bow than this cannot bear much weight (mm/s, ours; slow bows bear little force: Schelleng 1973, from memory). */
const SLOW = 120;
/** So near the next string's sector the hair touches both (degrees, measurement reference). */
const GIVE = 1.5;
/** A second string is counted when it is this sure, a tone's hint likewise (ours). */
const SURE = 0.3;
/** A note that begins so much noisier than it goes on begins with a crunch (dB, ours: clean starts of synthetic and of sampled strings stay under 6.5). */
const NOISY = 6.5;
/** From this share of the way to its band's edge the contact point is toward one side (ours). */
const TOWARD = 0.75;
/** So near to the beginning of a bow a note begins with it (seconds, ours). */
const AT_START = 0.2;
/** Fewer bows tell no habit. */
const LEAST = 3;

/** The bow a moment mostly lies in; -1 for none. */
const strokeOf = ({ from, to }: { from: number; to: number }, strokes: readonly Stroke[]) => {
  const shared = strokes.map((s) => Math.min(to, s.to) - Math.max(from, s.from));
  const most = Math.max(...shared);
  return most > 0 ? shared.indexOf(most) : -1;
};

/** Mean and doubt of a quantity while a note lasts; undefined where it was not measured. */
function during({ from, to }: { from: number; to: number }, frames: readonly FrameMeasures[], quantity: Quantity): { value: number; u: number } | undefined {
  const values = frames.flatMap((f) => (f.t >= from && f.t <= to ? (f.values[quantity] ?? []) : []));
  return values.length > 0 ? { value: mean(values.map((v) => v.value)), u: mean(values.map((v) => v.u)) } : undefined;
}

interface Sounding {
  readonly events: SoundEvents;
  readonly strokes: readonly Stroke[];
  readonly frames: readonly FrameMeasures[];
  readonly bands: Bands;
}

/** The share of the bows in which one of some moments lies. */
function shareOfBows(moments: readonly { from: number; to: number }[], { strokes }: Sounding, quantity: string, says: string, cause?: CauseId): TakeNumber | undefined {
  const shown = new Map<number, { from: number; to: number }>();
  for (const m of moments) {
    const stroke = strokeOf(m, strokes);
    if (stroke >= 0 && !shown.has(stroke)) shown.set(stroke, m);
  }
  if (shown.size === 0 || strokes.length < LEAST) return undefined;
  return {
    value: shown.size / strokes.length,
    u: 0.5 / strokes.length,
    eligible: strokes.length,
    stretches: [...shown].map(([stroke, { from, to }]) => ({ from, to, stroke })),
    ...(cause ? { cause } : {}),
    evidence: [{ quantity, value: moments.length, u: 0, says: `${moments.length} times ${says}` }],
  };
}

/** Notes of that tone where the picture shows a reason for it: what is only heard is no finding. */
const heardAndSeen = (hint: ToneHint, sounding: Sounding, seen: (note: HeardNote) => boolean): HeardNote[] =>
  sounding.events.notes.filter((note, i) => {
    const tone = sounding.events.tones[i];
    return tone?.hint === hint && tone.confidence >= SURE && seen(note);
  });

/** Contact off its middle to one side, by more than its doubt: most of the way to the band's edge, for past it is a fault of its own. */
function contactToward(side: 'bridge' | 'fingerboard', { frames, bands }: Sounding): (note: HeardNote) => boolean {
  const { middle, good } = bands.contactFraction;
  return (note) => {
    const contact = during(note, frames, 'contact_fraction');
    return contact !== undefined && (side === 'fingerboard' ? contact.value - middle : middle - contact.value) - TOWARD * good > contact.u;
  };
}

/** A row of notes that sound so as the bow is seen toward one side. */
const toned = (id: 'airy' | 'glassy', side: 'bridge' | 'fingerboard', byPlace: string, sounds: string): TakeFault => ({
  ...COUNTED_BOWS,
  id,
  quantity: `${id}_share`,
  sound: id,
  title: (_, word = wordFor({}, id)) => `Toward the ${side}, notes turn ${word}.`,
  band: (b) => b.toneShare,
  unless: [byPlace, 'contact-drifts', 'contact-jumps'],
  measure(events, strokes, { frames, bands }) {
    const all = { events, strokes, frames, bands };
    return shareOfBows(heardAndSeen(id, all, contactToward(side, all)), all, `${id}_share`, `a note ${sounds} than the others, and the bow was seen toward the ${side}`);
  },
  exercises: ['Three stations', 'Long open bows'],
});

export const airy = toned('airy', 'fingerboard', 'on-fingerboard', 'had more breath');
export const glassy = toned('glassy', 'bridge', 'at-bridge', 'was brighter');

export const scratchy: TakeFault = {
  ...COUNTED_BOWS,
  id: 'scratchy',
  quantity: 'scratchy_share',
  title: () => 'Slow bows sound scratchy.',
  band: (b) => b.toneShare,
  measure(events, strokes, { frames, bands }) {
    const all = { events, strokes, frames, bands };
    const slow = (note: HeardNote) => {
      const speeds = frames.flatMap((f) => (f.t >= note.from && f.t <= note.to && f.values.bow_speed_mm_s ? [Math.abs(f.values.bow_speed_mm_s.value)] : []));
      return speeds.length > 0 && mean(speeds) < SLOW;
    };
    return shareOfBows(
      heardAndSeen('scratchy', all, slow),
      all,
      'scratchy_share',
      `a note was less steady than the others, and the bow was seen to go slower than ${SLOW / 10} cm a second`,
      'too-slow-for-weight',
    );
  },
  exercises: ['Long open bows', 'Light print'],
};

/** Two strings at once, at the crossings too: heard, and the bow seen at the edge between them. */
export const twoStrings: TakeFault = {
  ...COUNTED_BOWS,
  id: 'two-strings',
  quantity: 'two_strings_share',
  title: () => 'Two strings sound at once.',
  band: (b) => b.toneShare,
  unless: ['neighbour-touched', 'level-lost'],
  measure(events, strokes, { frames, bands }) {
    const all = { events, strokes, frames, bands };
    const both = events.strays.filter((s) => s.confidence >= SURE && frames.some((f) => f.t >= s.from && f.t <= s.to && (f.values.level_margin_deg?.value ?? 90) < GIVE));
    return shareOfBows(both, all, 'two_strings_share', 'a second string was heard, and the bow was seen at the edge of its level');
  },
  exercises: ['Level stops', 'Halt and bracket'],
};

/** The bow is pressed into the string before it moves. */
export const extraNoiseAtStart: TakeFault = {
  ...COUNTED_BOWS,
  id: 'extra-noise-at-start',
  quantity: 'noisy_start_share',
  title: () => 'Notes begin with a crunch.',
  band: (b) => b.noisyStartShare,
  measure(events, strokes, { frames, bands }) {
    // Before the first note there was silence: what rises out of it is no measure.
    const noisy = events.notes.slice(1).filter((n) => (n.tone.startNoise ?? 0) > NOISY && strokes.some((s) => Math.abs(n.from - s.from) < AT_START));
    return shareOfBows(noisy, { events, strokes, frames, bands }, 'noisy_start_share', `a bow began more than ${NOISY} dB noisier than its note went on`, 'squeezing');
  },
  exercises: ['Light print', 'Silent bowing'],
};
