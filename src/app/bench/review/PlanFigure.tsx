import { format, parseISO } from 'date-fns';
import { useMemo } from 'react';
import { sideSign } from '../../../core/instrument/family';
import type { StringLine } from '../../../core/instrument/strings';
import { earlierBow } from '../../../core/progress/sinceLast';
import type { Bands } from '../../../core/rubric/rubric';
import type { Stroke } from '../../../core/strokes/stroke';
import type { TakeMeasures } from '../../../core/take/analyse';
import type { MeasuredTake } from '../../../store/takes';
import { StringPlan } from '../../drawings/StringPlan';
import type { Sign } from '../../drawings/tokens';
import { millimetres, plusMinus, skewInWords } from '../../drawings/words';
import { onPlan, planWords } from './frameWords';

interface PlanFigureProps {
  readonly take: TakeMeasures;
  /** Frame shown, and the bow it is part of, whose course is drawn behind it. */
  readonly index: number;
  readonly stroke: Stroke | undefined;
  readonly size: readonly [number, number];
  readonly strings: readonly StringLine[];
  readonly bands: Bands;
  readonly angleSign: Sign;
  readonly contactSign: Sign;
  /** The take before this one, whose bow can be shown too. */
  readonly earlier: MeasuredTake | undefined;
  readonly showBefore: boolean;
  readonly onShowBefore: (show: boolean) => void;
}

/** The strings from above with the bow across, and its angle and contact point in words. */
export function PlanFigure({ take, index, stroke, size: [width, height], strings, bands, angleSign, contactSign, earlier, showBefore, onShowBefore }: PlanFigureProps) {
  const frame = take.frames[index]!;
  const { skew_deg: skew, contact_mm: contact, contact_fraction: fraction, bow_position: position } = frame.values;
  const trail = useMemo(() => {
    if (!stroke) return [];
    return take.frames
      .slice(stroke.first, index)
      .filter((_, i, all) => (all.length - i) % 3 === 0)
      .flatMap((f) => onPlan(f) ?? []);
  }, [take, stroke, index]);
  const bow = onPlan(frame);
  return (
    <figure style={{ width }}>
      <StringPlan
        width={width}
        height={height}
        model={take.solution.model}
        strings={strings}
        side={sideSign(take.family)}
        hair={take.dimensions.hair}
        bands={bands}
        {...(bow ? { bow } : {})}
        trail={trail}
        before={showBefore && earlier && position ? earlierBow(earlier.record.measures, frame.string, position.value) : undefined}
        angleSign={angleSign}
        contactSign={contactSign}
        label={planWords(frame)}
      />
      <figcaption className="relative mt-1 text-label leading-[19px]">
        {earlier && (
          <button
            type="button"
            className="absolute top-0 right-0 bg-fog pl-2 text-sea underline"
            aria-pressed={showBefore}
            aria-label={`The bow of the last take, filmed ${format(parseISO(earlier.take.filmedOn), 'd MMMM')}`}
            onClick={() => onShowBefore(!showBefore)}
          >
            {showBefore ? 'without it' : 'last take'}
          </button>
        )}
        <span className="block truncate">
          {skew ? (
            <>
              <b className="font-semibold">
                {skewInWords(skew.value)} {plusMinus(skew.u)}
              </b>{' '}
              <span className="text-soft">should be within {bands.skew.good.toFixed(0)}</span>
            </>
          ) : (
            <span className="text-soft">The bow's angle cannot be judged here</span>
          )}
        </span>
        <span className="block truncate">
          {contact && fraction ? (
            <>
              <b className="font-semibold">
                {millimetres(contact.value)} {plusMinus(contact.u)}
              </b>{' '}
              <span className="text-soft">{fraction.value.toFixed(2)} of the strip</span>
            </>
          ) : (
            <span className="text-soft">The contact point cannot be judged here</span>
          )}
        </span>
      </figcaption>
    </figure>
  );
}
