import type { Finding } from '../../core/findings/finding';
import { sideSign } from '../../core/instrument/family';
import { stringLines } from '../../core/instrument/strings';
import { nearestIndex } from '../../core/nearestIndex';
import { familyWords } from '../../core/practice/familyWords';
import type { Bands } from '../../core/rubric/rubric';
import type { TakeMeasures } from '../../core/take/analyse';
import { armSceneOf } from '../bench/review/armScene';
import { onPlan } from '../bench/review/frameWords';
import { ArmPlate } from '../drawings/ArmPlate';
import { StringPlan } from '../drawings/StringPlan';
import { faultTitle } from '../findingWords';

const SIZE = [140, 150] as const;
const ON_PLAN = ['skew_deg', 'contact_fraction', 'contact_range', 'arc_index'];

/** One focus: its drawing, what to do, and why in a sentence. */
export function FocusBlock({ finding, take, bands }: { finding: Finding; take: TakeMeasures; bands: Bands }) {
  const words = familyWords(finding.fault);
  const times = take.frames.map((f) => f.t);
  const index = nearestIndex(times, (finding.from + finding.to) / 2);
  const frame = take.frames[index]!;
  const bow = onPlan(frame);
  const arm = armSceneOf(
    take,
    index,
    take.strokes.find((s) => frame.t >= s.from && frame.t <= s.to),
  );
  const plan = ON_PLAN.includes(finding.quantity);
  return (
    <section className="flex gap-3.5">
      <div className="shrink-0">
        {plan && bow ? (
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
        ) : arm ? (
          <ArmPlate width={SIZE[0]} height={SIZE[1]} view="above" scene={arm} sign="found" label={faultTitle(finding)} />
        ) : null}
      </div>
      <div>
        <h3 className="font-serif text-name font-bold">{words?.aim ?? faultTitle(finding)}</h3>
        <p className="mt-1">{words?.says}</p>
      </div>
    </section>
  );
}
