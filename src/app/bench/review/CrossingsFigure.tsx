import type { SoundEvents } from '../../../core/crossings/soundEvents';
import { strayCause } from '../../../core/formats/straysCsv';
import type { StringLevels } from '../../../core/instrument/strings';
import type { Measured } from '../../../core/measures/measures';
import { median } from '../../../core/statistics';
import { CrossingSeams } from '../../drawings/CrossingSeams';
import { LevelsLadder } from '../../drawings/LevelsLadder';
import { partOfBow, plusMinus } from '../../drawings/words';

export type CrossingView = 'seams' | 'levels';

export interface CrossingsFigureProps {
  readonly events: SoundEvents;
  readonly levels: StringLevels;
  readonly strings: readonly string[];
  readonly view: CrossingView;
  readonly width: number;
  readonly now: number;
  /** Edge of the rubric, seconds. */
  readonly apart: number;
  /** The measured offset of the sound, and the teacher's own where given (seconds, + = late). */
  readonly late: Measured | undefined;
  readonly shift: number | undefined;
  readonly onShift: (shift: number | undefined) => void;
  readonly onSeek: (t: number) => void;
  readonly onStray: (step: 1 | -1) => void;
}

/** Three stitches need so much room, px. */
const LEAST_HEIGHT = 100;
/** Step of the teacher's shift of the sound, seconds. */
const SHIFT_STEP = 0.01;

/** Crossings by their clocks or the levels of the strings, the sound's offset, and the stray strings one by one. */
export function CrossingsFigure({ events, levels, strings, view, width, now, apart, late, shift, onShift, onSeek, onStray }: CrossingsFigureProps) {
  const height = Math.max(LEAST_HEIGHT, Math.round(width * 0.5));
  const wide = width > 180;
  const { crossings, lag, strays, levels: table, notes } = events;
  const offset = shift ?? late?.value;
  return (
    <figure>
      {view === 'seams' ? (
        <CrossingSeams width={width} height={height} crossings={crossings} lag={lag} apart={apart} now={now} onSeek={onSeek} label={seamsInWords(events)} />
      ) : (
        <LevelsLadder width={width} height={height} table={table} natural={levels} strings={strings} label={levelsInWords(events)} />
      )}
      <figcaption className="mt-1 text-label leading-[18px]">
        <span className="block truncate">{view === 'seams' ? <SeamCaption events={events} /> : <LevelCaption events={events} />}</span>
        {notes.length > 0 && (
          <span className="flex items-center justify-between gap-1">
            <span className="truncate text-soft">
              {offset === undefined ? (wide ? 'Sound and film not laid together' : 'Sound adrift') : `${wide ? 'Sound ' : ''}${offsetInWords(offset)}`}
              {wide && shift === undefined && late ? ` ${plusMinus(1000 * late.u)}` : ''}
            </span>
            <span className="flex shrink-0">
              <Nudge label="Sound earlier by 10 ms" sign="−" onClick={() => onShift((offset ?? 0) - SHIFT_STEP)} />
              <Nudge label="Sound later by 10 ms" sign="+" onClick={() => onShift((offset ?? 0) + SHIFT_STEP)} />
              {shift !== undefined && <Nudge label="Back to the measured offset" sign="↺" onClick={() => onShift(undefined)} />}
            </span>
          </span>
        )}
        <Strays strays={strays} heard={notes.length > 0} now={now} onStray={onStray} />
      </figcaption>
    </figure>
  );
}

function Nudge({ label, sign, onClick }: { label: string; sign: string; onClick: () => void }) {
  return (
    <button type="button" aria-label={label} title={label} onClick={onClick} className="h-6 w-6 rounded-card text-sea hover:bg-fog-deep">
      {sign}
    </button>
  );
}

function Strays({ strays, heard, now, onStray }: { strays: SoundEvents['strays']; heard: boolean; now: number; onStray: (step: 1 | -1) => void }) {
  if (!heard) return <span className="block text-soft">No note of the instrument was heard</span>;
  if (strays.length === 0) return <span className="block text-soft">No stray string heard</span>;
  const here = strays.findIndex((s) => now >= s.from - 0.1 && now <= s.to + 0.1);
  const stray = strays[here];
  return (
    <span className="flex items-center justify-between gap-1">
      <span className="truncate" aria-live="polite">
        {stray ? (
          <>
            <b className="font-semibold">{stray.string}</b>
            {stray.position === undefined ? '' : `, ${partOfBow(stray.position)}`}: {strayCause(stray)}
          </>
        ) : (
          `${strays.length} stray ${strays.length === 1 ? 'string' : 'strings'}`
        )}
      </span>
      <span className="flex shrink-0">
        <Nudge label="Stray string before" sign="[" onClick={() => onStray(-1)} />
        <Nudge label="Next stray string" sign="]" onClick={() => onStray(1)} />
      </span>
    </span>
  );
}

const ms = (seconds: number) => `${Math.abs(1000 * seconds).toFixed(0)} ms`;
const offsetInWords = (seconds: number) => (Math.abs(seconds) < 0.0005 ? 'with the film' : `${ms(seconds)} ${seconds > 0 ? 'late' : 'early'}`);

const notesLag = (events: SoundEvents) => {
  const lags = events.crossings.flatMap((c) => (c.tNote === undefined ? [] : [c.tNote - c.tBow]));
  return lags.length > 0 ? median(lags) : undefined;
};

function SeamCaption({ events }: { events: SoundEvents }) {
  const { lag, crossings } = events;
  if (crossings.length === 0) return <span className="text-soft">No crossing in this take</span>;
  const notes = notesLag(events);
  return (
    <>
      {lag ? (
        <b className="font-semibold">
          Arm {ms(lag.value)} {lag.value > 0 ? 'late' : 'early'} {plusMinus(1000 * lag.u)}
        </b>
      ) : (
        <span className="text-soft">Arm not timed</span>
      )}
      {notes !== undefined && (
        <span className="text-soft">
          , note {ms(notes)} {notes > 0 ? 'after' : 'before'}
        </span>
      )}
    </>
  );
}

function LevelCaption({ events }: { events: SoundEvents }) {
  const steps = events.levels.steps.filter((s) => s.armStep);
  if (events.levels.levels.length < 2) return <span className="text-soft">One string, one level</span>;
  if (steps.length === 0) return <span className="text-soft">The arm cannot be judged here</span>;
  const share = steps.reduce((sum, s) => sum + s.armStep!.value / s.bowStep, 0) / steps.length;
  return <b className="font-semibold">Arm makes {Math.round(100 * share)} % of the bow's steps</b>;
}

function seamsInWords(events: SoundEvents): string {
  const { crossings, lag } = events;
  if (crossings.length === 0) return 'No crossing in this take';
  const notes = notesLag(events);
  return [
    `${crossings.length} crossings`,
    notes === undefined ? 'notes not heard' : `notes ${ms(notes)} ${notes > 0 ? 'after' : 'before'} the bow`,
    lag ? `arm ${ms(lag.value)} ${lag.value > 0 ? 'after' : 'before'} the bow` : 'arm not timed',
  ].join(', ');
}

const levelsInWords = (events: SoundEvents) =>
  events.levels.levels.map((l) => `${l.string}: bow ${l.bow.value.toFixed(0)} degrees${l.arm ? `, upper arm ${l.arm.value.toFixed(0)}` : ''}`).join('; ') || 'No level measured';
