import { useMemo } from 'react';
import type { Hold, HoldKind } from '../../../core/body/holds';
import type { FrameMeasures } from '../../../core/measures/measures';
import { goodEdges } from '../../../core/rubric/band';
import type { Bands } from '../../../core/rubric/rubric';
import type { TakeMeasures } from '../../../core/take/analyse';
import { HoldStrip } from '../../drawings/HoldStrip';
import { HeadingClock, StancePlate, type StanceSigns, type StanceView } from '../../drawings/StancePlate';
import type { Sign } from '../../drawings/tokens';
import { degrees, plusMinus } from '../../drawings/words';
import { stanceSceneOf } from './stanceScene';

/** Strip and line of the holds with what stands between (px). */
const HOLDS_HEIGHT = 50;

export type StanceSignOf = (quantities: readonly string[]) => Sign;

/** What of the figure shows the signs of which quantities. */
export const stanceSignsOf = (signOf: StanceSignOf): StanceSigns => ({
  trunk: signOf(['trunk_lean_deg']),
  head: signOf(['head_tilt_deg', 'head_turn_deg', 'shoulder_lift']),
  feet: signOf(['stance_width']),
  elbow: signOf(['left_elbow_gap']),
  peg: signOf(['peg_ear_mm']),
});

/** Stance from front and side, or the clock of the instrument's heading from above, with a caption. */
export function StanceFigure({
  take,
  index,
  width,
  view,
  bands,
  signOf,
  onSeek,
}: {
  take: TakeMeasures;
  index: number;
  width: number;
  view: StanceView;
  bands: Bands;
  signOf: StanceSignOf;
  onSeek: (t: number) => void;
}) {
  const scene = useMemo(() => stanceSceneOf(take, index), [take, index]);
  const { values } = take.frames[index]!;
  const holds = heldBesidePlaying(take);
  // The strip of the holds takes its room from the figures: the page keeps its lines.
  const height = Math.round(width * 0.77) - (holds ? HOLDS_HEIGHT : 0);
  const signs = stanceSignsOf(signOf);
  return (
    <figure>
      {view === 'figures' ? (
        <StancePlate width={width} height={height} scene={scene} signs={signs} label={stanceWords(take.frames[index]!)} />
      ) : (
        <HeadingClock
          width={width}
          height={height}
          heading={values.instrument_heading_deg}
          turn={values.head_turn_deg?.value}
          band={goodEdges(bands.heading)}
          sign={signOf(['instrument_heading_deg'])}
          label={headingWords(take.frames[index]!)}
        />
      )}
      <figcaption className="mt-1 truncate text-label">
        {view === 'figures' ? <StanceCaption frame={take.frames[index]!} /> : <HeadingCaption frame={take.frames[index]!} />}
      </figcaption>
      {holds && <Holds holds={holds} duration={take.frames.at(-1)!.t} width={width} now={take.frames[index]!.t} onSeek={onSeek} />}
    </figure>
  );
}

/** How the instrument was held, where it was not only played. */
const heldBesidePlaying = ({ holds }: TakeMeasures): readonly Hold[] | undefined => (holds?.some((h) => h.kind !== 'playing') ? holds : undefined);

/** How long the instrument was held without the left hand, and when it was at rest. */
function Holds({ holds, duration, width, now, onSeek }: { holds: readonly Hold[]; duration: number; width: number; now: number; onSeek: (t: number) => void }) {
  const lengths = (kind: HoldKind) => holds.filter((h) => h.kind === kind).map((h) => h.to - h.from);
  const inAll = (seconds: readonly number[]) => seconds.reduce((a, b) => a + b, 0).toFixed(1);
  const free = lengths('hands-free');
  return (
    <div className="mt-1">
      <HoldStrip width={width} duration={duration} holds={holds} now={now} onSeek={onSeek} />
      <p className="text-label">
        {free.length === 0 ? (
          <span className="text-soft">Rest position {inAll(lengths('rest'))} s</span>
        ) : (
          <>
            <b className="font-semibold">Held without the left hand {Math.max(...free).toFixed(1)} s</b>
            {free.length > 1 && <span className="text-soft"> at best, {inAll(free)} s in all</span>}
          </>
        )}
      </p>
    </div>
  );
}

const leanInWords = (lean: number): string => (Math.abs(lean) < 3 ? 'Upright' : `Leans ${degrees(lean)} ${lean > 0 ? 'left' : 'right'}`);

function StanceCaption({ frame }: { frame: FrameMeasures }) {
  const { trunk_lean_deg: lean, head_tilt_deg: tilt, peg_ear_mm: peg } = frame.values;
  if (!lean && !tilt && !peg) return <span className="text-soft">The stance cannot be judged here</span>;
  return (
    <>
      {lean && (
        <b className="font-semibold">
          {leanInWords(lean.value)} {plusMinus(lean.u)}
        </b>
      )}{' '}
      {tilt && <span className="text-soft">head tilted {degrees(tilt.value)}</span>}
      {peg && (
        <span className="text-soft">
          peg {Math.round(peg.value)} mm {plusMinus(peg.u)} from the ear
        </span>
      )}
    </>
  );
}

/** A clock whose twelve is straight ahead. */
function hourOf(heading: number): string {
  const hour = 12 - heading / 30;
  const whole = Math.floor(hour);
  const half = hour - whole;
  const name = (h: number) => ['nine', 'ten', 'eleven', 'twelve', 'one', 'two'][h - 9] ?? String(h);
  if (half < 0.25) return `at ${name(whole)}`;
  return half < 0.75 ? `at half past ${name(whole)}` : `at ${name(whole + 1)}`;
}

function HeadingCaption({ frame }: { frame: FrameMeasures }) {
  const heading = frame.values.instrument_heading_deg;
  if (!heading) return <span className="text-soft">The heading cannot be judged here</span>;
  return (
    <>
      <b className="font-semibold">Scroll {hourOf(heading.value)}</b>{' '}
      <span className="text-soft">
        {degrees(heading.value)} {plusMinus(heading.u)} to the left
      </span>
    </>
  );
}

function headingWords(frame: FrameMeasures): string {
  const heading = frame.values.instrument_heading_deg;
  return heading
    ? `The player from above: the scroll ${hourOf(heading.value)}, ${heading.value.toFixed(0)} degrees to the left of straight ahead, plus or minus ${heading.u.toFixed(0)}`
    : 'The heading of the instrument cannot be judged here';
}

function stanceWords({ values }: FrameMeasures): string {
  const told = [
    values.trunk_lean_deg && `the trunk ${leanInWords(values.trunk_lean_deg.value).toLowerCase()}, plus or minus ${values.trunk_lean_deg.u.toFixed(0)}`,
    values.trunk_stoop_deg && `${degrees(values.trunk_stoop_deg.value)} ${values.trunk_stoop_deg.value > 0 ? 'forward' : 'back'}`,
    values.head_tilt_deg && `the head tilted ${values.head_tilt_deg.value.toFixed(0)} degrees`,
    values.head_turn_deg && `turned ${values.head_turn_deg.value.toFixed(0)} degrees to the left`,
    values.peg_ear_mm && `the lowest peg ${Math.round(values.peg_ear_mm.value)} millimetres from the left ear, plus or minus ${values.peg_ear_mm.u.toFixed(0)}`,
    values.stance_width && `the feet ${values.stance_width.value.toFixed(1)} shoulder widths apart`,
  ].filter(Boolean);
  return told.length > 0 ? `The player from the front and the side: ${told.join('; ')}` : 'The stance cannot be judged here';
}
