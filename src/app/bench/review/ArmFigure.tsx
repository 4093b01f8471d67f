import { useMemo } from 'react';
import type { FrameMeasures } from '../../../core/measures/measures';
import type { Stroke } from '../../../core/strokes/stroke';
import type { TakeMeasures } from '../../../core/take/analyse';
import { ArmPlate, type ArmView } from '../../drawings/ArmPlate';
import type { Sign } from '../../drawings/tokens';
import { degrees, plusMinus } from '../../drawings/words';
import { armSceneOf } from './armScene';

/** The arm plate with its caption, from above or from the front. */
export function ArmFigure({ take, index, stroke, width, view, sign }: { take: TakeMeasures; index: number; stroke: Stroke | undefined; width: number; view: ArmView; sign: Sign }) {
  const scene = useMemo(() => armSceneOf(take, index, stroke), [take, index, stroke]);
  const frame = take.frames[index]!;
  return (
    <figure>
      <ArmPlate width={width} height={Math.round(width * 0.77)} view={view} scene={scene} sign={sign} label={armWords(frame, view)} />
      <figcaption className="mt-1 text-label">{scene ? <ArmCaption frame={frame} /> : <span className="text-soft">The arm cannot be judged here</span>}</figcaption>
    </figure>
  );
}

function ArmCaption({ frame }: { frame: FrameMeasures }) {
  const elbow = frame.values.elbow_angle_deg;
  const gap = frame.values.arm_bow_gap_deg;
  return (
    <>
      {elbow ? (
        <b className="font-semibold">
          Elbow {degrees(elbow.value)} {plusMinus(elbow.u)}
        </b>
      ) : (
        <span className="text-soft">Elbow not told here,</span>
      )}{' '}
      {gap && <span className="text-soft">{gapInWords(gap.value)}</span>}
    </>
  );
}

const gapInWords = (gap: number): string => (Math.abs(gap) < 5 ? 'arm with the bow' : `arm ${degrees(gap)} ${gap > 0 ? 'above' : 'below'}`);

function armWords(frame: FrameMeasures, view: ArmView): string {
  const { elbow_angle_deg: elbow, instrument_heading_deg: heading } = frame.values;
  const parts = [elbow ? `elbow ${elbow.value.toFixed(0)} degrees, plus or minus ${elbow.u.toFixed(0)}` : 'elbow cannot be judged'];
  if (heading) parts.push(`instrument ${heading.value.toFixed(0)} degrees to the left of straight ahead`);
  return `The bow arm ${view === 'above' ? 'from above' : 'from the front'}: ${parts.join('; ')}`;
}
