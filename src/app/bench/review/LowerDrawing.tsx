import { useState } from 'react';
import type { Bands } from '../../../core/rubric/rubric';
import type { Stroke } from '../../../core/strokes/stroke';
import type { TakeMeasures } from '../../../core/take/analyse';
import type { ArmView } from '../../drawings/ArmPlate';
import type { StanceView } from '../../drawings/StancePlate';
import type { Sign } from '../../drawings/tokens';
import type { OpenFilm } from '../../film/useFilm';
import { Tabs } from '../../ui/Tabs';
import { ArmFigure } from './ArmFigure';
import { CrossingsFigure, type CrossingsFigureProps, type CrossingView } from './CrossingsFigure';
import { HandFigure, type HandView } from './HandFigure';
import { StanceFigure } from './StanceFigure';
import { StrokeTable } from './StrokeTable';

const TABS = ['arm', 'hand', 'body', 'crossings', 'bows'] as const;
export type LowerTab = (typeof TABS)[number];

const NAMES: Readonly<Record<LowerTab, string>> = { arm: 'Arm', hand: 'Hand', body: 'Body', crossings: 'Strings', bows: 'Bows' };

/** A drawing's other face: the word on the link to it, and what it says to those who listen. */
interface Turn {
  readonly word: string;
  readonly label: string;
  readonly go: () => void;
}

/** The lower half of the third column: bow arm, bow hand, stance, the crossings, or the table of bows. */
export function LowerDrawing({
  take,
  film,
  index,
  stroke,
  width,
  bands,
  armSign,
  signOf,
  handPlaced,
  shown,
  onShow,
  onSeek,
  crossings,
}: {
  take: TakeMeasures;
  film: OpenFilm;
  index: number;
  stroke: Stroke | undefined;
  width: number;
  bands: Bands;
  armSign: Sign;
  /** Sign of the frame's findings about some quantities. */
  signOf: (quantities: readonly string[]) => Sign;
  /** Whether the teacher has placed the bow hand in some frame. */
  handPlaced: boolean;
  shown: LowerTab;
  onShow: (tab: LowerTab) => void;
  onSeek: (t: number) => void;
  crossings: Omit<CrossingsFigureProps, 'view' | 'width' | 'now' | 'onSeek'>;
}) {
  const [arm, setArm] = useState<ArmView>('above');
  const [hand, setHand] = useState<HandView>('film');
  const [stance, setStance] = useState<StanceView>('figures');
  const [crossing, setCrossing] = useState<CrossingView>('seams');
  const there: Partial<Record<LowerTab, boolean>> = { arm: (take.arms?.length ?? 0) > 0, hand: (take.hands?.length ?? 0) > 0, body: (take.stances?.length ?? 0) > 0 };
  const tabs = TABS.filter((tab) => there[tab] ?? true);
  const open = tabs.includes(shown) ? shown : 'bows';
  const turns: Partial<Record<LowerTab, Turn>> = {
    arm:
      arm === 'above'
        ? { word: 'front', label: 'Show the arm from the front', go: () => setArm('front') }
        : { word: 'above', label: 'Show the arm from above', go: () => setArm('above') },
    hand:
      hand === 'film'
        ? { word: 'bends', label: 'Show how far each finger is bent', go: () => setHand('bends') }
        : { word: 'film', label: 'Show the hand in the film at frog, middle and tip', go: () => setHand('film') },
    body:
      stance === 'figures'
        ? { word: 'clock', label: 'Show where the scroll points, from above', go: () => setStance('clock') }
        : { word: 'figure', label: 'Show the player from front and side', go: () => setStance('figures') },
    crossings:
      crossing === 'seams'
        ? { word: 'levels', label: 'Show the levels of the strings', go: () => setCrossing('levels') }
        : { word: 'timing', label: 'Show the timing of the crossings', go: () => setCrossing('seams') },
  };
  const turn = turns[open];
  return (
    <div className="relative mt-2">
      <div className="mb-1 flex items-start justify-between gap-x-1.5 text-label">
        <Tabs names={tabs.map((name) => [name, NAMES[name]] as const)} chosen={open} label="Lower drawing" onChoose={onShow} className="gap-x-1.5" />
        {turn && (
          <button type="button" className="shrink-0 pb-0.5 text-sea underline" onClick={turn.go} aria-label={turn.label}>
            {turn.word}
          </button>
        )}
      </div>
      {open === 'arm' && <ArmFigure take={take} index={index} stroke={stroke} width={width} view={arm} sign={armSign} />}
      {open === 'hand' && (
        <HandFigure take={take} film={film} index={index} stroke={stroke} width={width} view={hand} bands={bands} signOf={signOf} placed={handPlaced} onSeek={onSeek} />
      )}
      {open === 'body' && <StanceFigure take={take} index={index} width={width} view={stance} bands={bands} signOf={signOf} onSeek={onSeek} />}
      {open === 'crossings' && <CrossingsFigure {...crossings} view={crossing} width={width} now={take.frames[index]!.t} onSeek={onSeek} />}
      {open === 'bows' && <StrokeTable strokes={take.strokes} current={stroke?.index} onSeek={onSeek} width={width} />}
    </div>
  );
}
