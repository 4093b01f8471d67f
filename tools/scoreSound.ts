/** A note or stray string by its string's letter, seconds. */
export interface Span {
  readonly from: number;
  readonly to: number;
  readonly string: string;
}

/** What a clip's sound truly holds, in the clock of the sound. */
export interface SoundTruth {
  readonly notes: readonly Span[];
  readonly strays: readonly Span[];
}

/** How well a sound was heard; counts, so that clips can be added up. */
export interface SoundScore {
  readonly frames: number;
  readonly stringRight: number;
  readonly starts: number;
  readonly startsNear: number;
  /** Errors of the starts that were found, seconds. */
  readonly errors: readonly number[];
  readonly strays: number;
  readonly straysFound: number;
  readonly straysFalse: number;
  readonly seconds: number;
}

/** A note start is near within this; a stray is met when it overlaps within {@link GRACE} (seconds). */
const NEAR = 0.04;
const GRACE = 0.05;
/** A start further off than this was not found. */
const FAR = 0.15;

/** Notes and strays as heard against the truth, all in one clock; strays within `crossing` seconds of a change of note are left out of the false ones. */
export function scoreSound(truth: SoundTruth, notes: readonly Span[], strays: readonly Span[], crossing = 0.15): SoundScore {
  const end = Math.max(0, ...truth.notes.map((n) => n.to));
  let frames = 0;
  let stringRight = 0;
  for (let t = 0; t < end; t += 0.02) {
    const is = truth.notes.find((n) => t >= n.from && t < n.to);
    if (!is) continue;
    frames++;
    if (notes.some((n) => t >= n.from && t < n.to && n.string === is.string)) stringRight++;
  }
  const free = new Set(notes);
  const errors = truth.notes.flatMap((n) => {
    const near = [...free].reduce<Span | undefined>((best, m) => (!best || Math.abs(m.from - n.from) < Math.abs(best.from - n.from) ? m : best), undefined);
    if (!near || Math.abs(near.from - n.from) > FAR) return [];
    free.delete(near);
    return [near.from - n.from];
  });
  const meets = (a: Span, b: Span) => a.string === b.string && a.from < b.to + GRACE && a.to > b.from - GRACE;
  const changes = truth.notes.map((n) => n.from);
  return {
    frames,
    stringRight,
    starts: truth.notes.length,
    startsNear: errors.filter((e) => Math.abs(e) <= NEAR).length,
    errors,
    strays: truth.strays.length,
    straysFound: truth.strays.filter((s) => strays.some((m) => meets(m, s))).length,
    straysFalse: strays.filter((m) => !truth.strays.some((s) => meets(m, s)) && !changes.some((t) => Math.abs(m.from - t) < crossing)).length,
    seconds: end,
  };
}

export const addScores = (scores: readonly SoundScore[]): SoundScore =>
  scores.reduce((a, b) => ({
    frames: a.frames + b.frames,
    stringRight: a.stringRight + b.stringRight,
    starts: a.starts + b.starts,
    startsNear: a.startsNear + b.startsNear,
    errors: [...a.errors, ...b.errors],
    strays: a.strays + b.strays,
    straysFound: a.straysFound + b.straysFound,
    straysFalse: a.straysFalse + b.straysFalse,
    seconds: a.seconds + b.seconds,
  }));
