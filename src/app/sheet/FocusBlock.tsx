import type { Finding } from '../../core/findings/finding';
import { sideSign } from '../../core/instrument/family';
import { stringLines } from '../../core/instrument/strings';
import { nearestIndex } from '../../core/nearestIndex';
import { familyWords } from '../../core/practice/familyWords';
import { goodEdges } from '../../core/rubric/band';
import type { Bands } from '../../core/rubric/rubric';
import type { TakeMeasures } from '../../core/take/analyse';
import { armSceneOf } from '../bench/review/armScene';
import { onPlan } from '../bench/review/frameWords';
import { handSceneOf } from '../bench/review/handScene';
import { stanceSignsOf } from '../bench/review/StanceFigure';
import { stanceSceneOf } from '../bench/review/stanceScene';
import { ArmPlate } from '../drawings/ArmPlate';
import { DIGITS, type Digit, HandPlate } from '../drawings/HandPlate';
import { HeadingClock, StancePlate } from '../drawings/StancePlate';
import { StringPlan } from '../drawings/StringPlan';
import { drawnBy } from '../drawnBy';
import { faultTitle } from '../findingWords';

const SIZE = [140, 150] as const;

/** One focus: its drawing, what to do, and why in a sentence. */
export function FocusBlock({ finding, take, bands }: { finding: Finding; take: TakeMeasures; bands: Bands }) {
  const words = familyWords(finding.fault);
  const times = take.frames.map((f) => f.t);
  const index = nearestIndex(times, (finding.from + finding.to) / 2);
  return (
    <section className="flex gap-3.5">
      <div className="shrink-0">
        <FocusDrawing finding={finding} take={take} bands={bands} index={index} />
      </div>
      <div>
        <h3 className="font-serif text-name font-bold">{words?.aim ?? faultTitle(finding)}</h3>
        <p className="mt-1">{words?.says}</p>
      </div>
    </section>
  );
}

/** What the finding is about, at its clearest; the arm where that has no drawing of its own. */
function FocusDrawing({ finding, take, bands, index }: { finding: Finding; take: TakeMeasures; bands: Bands; index: number }) {
  const frame = take.frames[index]!;
  const bow = onPlan(frame);
  const drawing = drawnBy(finding);
  const label = faultTitle(finding);
  const [width, height] = SIZE;
  const stroke = take.strokes.find((s) => frame.t >= s.from && frame.t <= s.to);
  const hand = drawing === 'hand' ? handSceneOf(take, index) : undefined;
  const stance = drawing === 'body' ? stanceSceneOf(take, index) : undefined;
  const arm = armSceneOf(take, index, stroke);
  if (drawing === 'plan' && bow) {
    return (
      <StringPlan
        width={SIZE[0]}
        height={SIZE[1]}
        model={take.solution.model}
        strings={stringLines(take.solution.model, take.family)}
        side={sideSign(take.family)}
        hair={take.dimensions.hair}
        bands={bands}
        bow={bow}
        trail={[]}
        angleSign={finding.quantity === 'skew_deg' ? 'found' : 'within'}
        contactSign={finding.quantity === 'skew_deg' ? 'within' : 'found'}
        label={faultTitle(finding)}
      />
    );
  }
  if (hand) return <HandPlate width={width} height={Math.round(height * 0.6)} scene={hand} signs={{ [digitOf(finding.quantity)]: 'found' }} label={label} />;
  if (finding.quantity === 'instrument_heading_deg') {
    return <HeadingClock width={width} height={height} heading={frame.values.instrument_heading_deg} turn={undefined} band={goodEdges(bands.heading)} sign="found" label={label} />;
  }
  if (stance)
    return (
      <StancePlate width={width} height={height} scene={stance} signs={stanceSignsOf((quantities) => (quantities.includes(finding.quantity) ? 'found' : 'within'))} label={label} />
    );
  return arm ? <ArmPlate width={width} height={height} view="above" scene={arm} sign="found" label={label} /> : null;
}

/** The digit a quantity of the hand is about. */
const digitOf = (quantity: string): Digit => DIGITS.find((d) => quantity.startsWith(d)) ?? 'middle';
