import { straysOf } from '../src/core/crossings/strays';
import { STRINGS } from '../src/core/instrument/family';
import type { FrameMeasures } from '../src/core/measures/measures';
import { hear, listen } from '../src/core/sound/hear';
import { loudnessOf, loudnessOffset } from '../src/core/sound/loudness';
import { quantile } from '../src/core/statistics';
import { buildInstrument } from '../synth/instrument/build';
import { Performance } from '../synth/motion/performance';
import { withFaults } from '../synth/presets/faults';
import { scenarioOf } from '../synth/presets/presets';
import type { StrokeSpec } from '../synth/presets/scenario';
import { bowedSound, SAMPLE_RATE, soundTakeOf } from '../synth/sound/bowedString';
import { addScores, type SoundScore, scoreSound } from './scoreSound';

/** A tune up and down the strings, so that stopped notes are heard too. */
const TUNE: readonly StrokeSpec[] = [0, 1, 2, 3, 2, 1].flatMap((string) =>
  [0, 1, 2, 3].map((finger, i) => ({ string, finger, direction: i % 2 ? ('up' as const) : ('down' as const), seconds: 0.55, part: [0.2, 0.8] as const, rest: 0.03 })),
);

const KINDS = [
  { title: 'crossings', preset: 'crossings' },
  { title: 'one string', preset: 'straight' },
  { title: 'short strokes', preset: 'short-strokes' },
  { title: 'tune', preset: 'straight', strokes: TUNE },
  { title: 'neighbour touched', preset: 'straight', fault: 'neighbour-touched' },
  { title: 'over the fingerboard', preset: 'straight', fault: 'on-fingerboard' },
  { title: 'at the bridge', preset: 'straight', fault: 'at-bridge' },
  { title: 'viola', preset: 'viola' },
  { title: 'cello', preset: 'cello' },
] as const;
const SEEDS = [2, 3, 4, 5, 6];

/** Prints how well the synthetic student's sounds are heard, kind by kind: no film is drawn for it. */
export function printSoundAccuracy(): void {
  let took = 0;
  const rows = KINDS.map((kind) => {
    const late: (number | undefined)[] = [];
    const scores = SEEDS.map((seed): SoundScore => {
      const plain = scenarioOf(kind.preset, seed, 'strokes' in kind ? { strokes: kind.strokes } : {});
      const scenario = 'fault' in kind ? withFaults(plain, [{ id: kind.fault, strength: 1 }]) : plain;
      const build = buildInstrument(scenario);
      const performance = new Performance(scenario, build);
      const sound = bowedSound(performance, scenario.family, build.model.frame.scale, build.model.fingerboardEndX, soundTakeOf(scenario));
      const moved = <T extends { from: number; to: number }>(span: T): T => ({ ...span, from: span.from + scenario.soundLate, to: span.to + scenario.soundLate });
      const truth = { notes: performance.notes().map(moved), strays: performance.strays().map(moved) };
      const start = globalThis.performance.now();
      // The turns of the bow as a picture shows them.
      const listening = listen(sound, SAMPLE_RATE, scenario.family)!;
      const heard = hear(listening, {
        turns: performance
          .turns()
          .slice(1)
          .map((t) => t - 0.02 + scenario.soundLate),
      });
      took += globalThis.performance.now() - start;
      const named = <T extends { string: number }>(span: T) => ({ ...span, string: STRINGS[scenario.family][span.string]! });
      // The picture tells which of two sounding strings the bow is meant for.
      const frames = Array.from({ length: Math.floor(performance.duration * 25) }, (_, frame): FrameMeasures => {
        const { string, bow } = performance.at(frame / 25);
        return { frame, t: frame / 25 + scenario.soundLate, string: STRINGS[scenario.family][string]!, values: { bow_position: { value: bow.position, u: 0.01 } } };
      });
      const offset = loudnessOffset(
        loudnessOf(listening.short),
        frames.map((f) => ({ t: f.t - scenario.soundLate, position: f.values.bow_position!.value })),
      );
      late.push(offset && offset.value - scenario.soundLate);
      const strays = straysOf(scenario.family, frames, heard.notes, heard.seconds, []).filter((s) => s.confidence >= 0.3);
      return scoreSound(truth, heard.notes.map(named), strays);
    });
    return { title: kind.title, score: addScores(scores), late };
  });
  const all = addScores(rows.map((r) => r.score));
  const share = (a: number, b: number) => (b > 0 ? `${((100 * a) / b).toFixed(1)} %` : '-');
  console.log(`The synthetic student's sound, ${SEEDS.length} seeds a kind, heard at ${((1000 * all.seconds) / took).toFixed(0)} times its length`);
  console.table(
    [...rows, { title: 'all', score: all, late: rows.flatMap((r) => r.late) }].map(({ title, score, late }) => ({
      kind: title,
      string: share(score.stringRight, score.frames),
      'starts within 40 ms': share(score.startsNear, score.starts),
      'median error ms': (1000 * quantile(score.errors, 0.5)).toFixed(0),
      'late, within 20 ms': `${late.filter((e) => e !== undefined && Math.abs(e) <= 0.02).length} of ${late.length}`,
      'strays found': score.strays > 0 ? `${score.straysFound} of ${score.strays}` : '-',
      'false a minute': ((60 * score.straysFalse) / score.seconds).toFixed(1),
    })),
  );
}
