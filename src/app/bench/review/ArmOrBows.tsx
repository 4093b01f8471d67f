import { useState } from 'react';
import type { Stroke } from '../../../core/strokes/stroke';
import type { TakeMeasures } from '../../../core/take/analyse';
import type { ArmView } from '../../drawings/ArmPlate';
import type { Sign } from '../../drawings/tokens';
import { ArmFigure } from './ArmFigure';
import { StrokeTable } from './StrokeTable';

/** The lower half of the third column: the bow arm, or the table of bows. */
export function ArmOrBows({
  take,
  index,
  stroke,
  width,
  armSign,
  onSeek,
}: {
  take: TakeMeasures;
  index: number;
  stroke: Stroke | undefined;
  width: number;
  armSign: Sign;
  onSeek: (t: number) => void;
}) {
  const [shown, setShown] = useState<'arm' | 'bows'>('arm');
  const [view, setView] = useState<ArmView>('above');
  const hasArm = (take.arms?.length ?? 0) > 0;
  const table = <StrokeTable strokes={take.strokes} current={stroke?.index} onSeek={onSeek} width={width} />;
  if (!hasArm) return table;
  return (
    <div className="mt-2">
      <div className="mb-1 flex items-baseline justify-between text-label">
        <div className="flex gap-3" role="tablist" aria-label="Lower drawing">
          {(['arm', 'bows'] as const).map((name) => (
            <button
              key={name}
              type="button"
              role="tab"
              aria-selected={shown === name}
              onClick={() => setShown(name)}
              className={`border-b-2 pb-0.5 ${shown === name ? 'border-sea font-semibold' : 'border-transparent text-soft'}`}
            >
              {name === 'arm' ? 'Bow arm' : width > 180 ? 'All bows' : 'Bows'}
            </button>
          ))}
        </div>
        {shown === 'arm' && (
          <button
            type="button"
            className="text-sea underline"
            onClick={() => setView(view === 'above' ? 'front' : 'above')}
            aria-label={view === 'above' ? 'Show the arm from the front' : 'Show the arm from above'}
          >
            {view === 'above' ? 'front' : 'above'}
          </button>
        )}
      </div>
      {shown === 'arm' ? <ArmFigure take={take} index={index} stroke={stroke} width={width} view={view} sign={armSign} /> : table}
    </div>
  );
}
