import { sideSign } from '../../../core/instrument/family';
import type { FrameMeasures } from '../../../core/measures/measures';
import type { TakeMeasures } from '../../../core/take/analyse';
import type { BowOnPlan } from '../../drawings/StringPlan';
import { millimetres, skewInWords } from '../../drawings/words';

/** A take without findings, said no more surely than its coverage allows. */
export function calmWords(unjudged: boolean, frames: readonly FrameMeasures[]): string {
  if (unjudged) return 'From here not everything can be judged.';
  const followed = frames.filter((f) => f.values.skew_deg && f.values.contact_fraction).length / Math.max(1, frames.length);
  return followed < WELL_FOLLOWED ? 'In what could be followed, nothing to mend was found.' : 'Nothing to mend was found.';
}

/** What is told less surely because nothing shows what is upright, and what would help; undefined where something does. */
export function whyUpDoubtful({ vertical, plumb }: Pick<TakeMeasures, 'vertical' | 'plumb'>): string | undefined {
  if (vertical) return undefined;
  const told = 'level and lean are told with more doubt, or not at all.';
  return plumb
    ? `Beside the plumb line nothing in this film shows what is upright: ${told} Film with a door or a window in the picture.`
    : `Nothing in this film shows what is upright: ${told} Mark a plumb line along a door or a window.`;
}

/** Why the bow arm was not measured, and what would help; undefined where it was. */
export function whyNoArm(take: TakeMeasures): string | undefined {
  if (take.arms && take.arms.length > 0) return undefined;
  if (sideSign(take.family) !== 1) return 'The bow arm is measured for violin and viola only so far.';
  if (!take.bodies) return 'This take was measured before the player was looked at. Measure it again to see the bow arm.';
  if (take.bodies.length === 0) return 'The player was not looked at: this browser could not start the networks for body and hand.';
  return 'The bow arm cannot be judged in this film. Film with shoulder, elbow and wrist in the picture.';
}

/** Share of the frames that must be measured before a calm take is called calm (ours). */
const WELL_FOLLOWED = 0.9;

export function onPlan(frame: FrameMeasures): BowOnPlan | undefined {
  const { contact_mm, skew_deg, bow_position } = frame.values;
  if (!contact_mm || !frame.string) return undefined;
  return { string: frame.string, contact: contact_mm, ...(skew_deg ? { skew: skew_deg } : {}), ...(bow_position ? { position: bow_position.value } : {}) };
}

export function planWords(frame: FrameMeasures): string {
  const { skew_deg, contact_mm } = frame.values;
  const parts = [frame.string ? `${frame.string} string` : 'string unknown'];
  parts.push(skew_deg ? `${skewInWords(skew_deg.value)}, plus or minus ${skew_deg.u.toFixed(0)} degrees` : 'angle cannot be judged');
  parts.push(contact_mm ? `${millimetres(contact_mm.value)}, plus or minus ${contact_mm.u.toFixed(0)}` : 'contact cannot be judged');
  return `The strings from above: ${parts.join('; ')}`;
}

export function levelWords(frame: FrameMeasures): string {
  const level = frame.values.inclination_deg;
  return level && frame.string
    ? `The bow's level on the ${frame.string} string, ${(frame.values.level_margin_deg?.value ?? 0).toFixed(0)} degrees from its neighbour`
    : 'The level cannot be judged here';
}

export function levelCaption(frame: FrameMeasures) {
  const margin = frame.values.level_margin_deg;
  if (!frame.string || !margin) return <span className="text-soft">Level cannot be judged here</span>;
  return (
    <>
      <b className="font-semibold">
        {frame.string} string{margin.value > 2 ? ', clear' : ', at its edge'}
      </b>{' '}
      <span className="text-soft">{Math.max(0, margin.value).toFixed(0)}° to its neighbour</span>
    </>
  );
}
