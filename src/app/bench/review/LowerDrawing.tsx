import { useState } from 'react';
import type { Stroke } from '../../../core/strokes/stroke';
import type { TakeMeasures } from '../../../core/take/analyse';
import type { ArmView } from '../../drawings/ArmPlate';
import type { Sign } from '../../drawings/tokens';
import { ArmFigure } from './ArmFigure';
import { CrossingsFigure, type CrossingsFigureProps, type CrossingView } from './CrossingsFigure';
import { StrokeTable } from './StrokeTable';

export type LowerTab = 'arm' | 'crossings' | 'bows';

/** The lower half of the third column: the bow arm, the crossings, or the table of bows. */
export function LowerDrawing({
  take,
  index,
  stroke,
  width,
  armSign,
  shown,
  onShow,
  onSeek,
  crossings,
}: {
  take: TakeMeasures;
  index: number;
  stroke: Stroke | undefined;
  width: number;
  armSign: Sign;
  shown: LowerTab;
  onShow: (tab: LowerTab) => void;
  onSeek: (t: number) => void;
  crossings: Omit<CrossingsFigureProps, 'view' | 'width' | 'now' | 'onSeek'>;
}) {
  const [view, setView] = useState<ArmView>('above');
  const [crossingView, setCrossingView] = useState<CrossingView>('seams');
  const hasArm = (take.arms?.length ?? 0) > 0;
  const wide = width > 180;
  const names: Record<LowerTab, string> = { arm: wide ? 'Bow arm' : 'Arm', crossings: 'Strings', bows: 'Bows' };
  const tabs = (['arm', 'crossings', 'bows'] as const).filter((tab) => tab !== 'arm' || hasArm);
  const open = tabs.includes(shown as never) ? shown : 'bows';
  const turn =
    open === 'arm'
      ? {
          word: view === 'above' ? 'front' : 'above',
          label: view === 'above' ? 'Show the arm from the front' : 'Show the arm from above',
          go: () => setView(view === 'above' ? 'front' : 'above'),
        }
      : open === 'crossings'
        ? {
            word: crossingView === 'seams' ? 'levels' : 'timing',
            label: crossingView === 'seams' ? 'Show the levels of the strings' : 'Show the timing of the crossings',
            go: () => setCrossingView(crossingView === 'seams' ? 'levels' : 'seams'),
          }
        : undefined;
  return (
    <div className="mt-2">
      <div className="mb-1 flex items-baseline justify-between text-label">
        <div className={`flex ${wide ? 'gap-3' : 'gap-1'}`} role="tablist" aria-label="Lower drawing">
          {tabs.map((name) => (
            <button
              key={name}
              type="button"
              role="tab"
              aria-selected={open === name}
              onClick={() => onShow(name)}
              className={`border-b-2 pb-0.5 ${open === name ? 'border-sea font-semibold' : 'border-transparent text-soft'}`}
            >
              {names[name]}
            </button>
          ))}
        </div>
        {turn && (
          <button type="button" className="text-sea underline" onClick={turn.go} aria-label={turn.label}>
            {turn.word}
          </button>
        )}
      </div>
      {open === 'arm' && <ArmFigure take={take} index={index} stroke={stroke} width={width} view={view} sign={armSign} />}
      {open === 'crossings' && <CrossingsFigure {...crossings} view={crossingView} width={width} now={take.frames[index]!.t} onSeek={onSeek} />}
      {open === 'bows' && <StrokeTable strokes={take.strokes} current={stroke?.index} onSeek={onSeek} width={width} />}
    </div>
  );
}
