import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { type Marks, marksToText, parseMarks, withNotedZoom } from '../../../core/formats/marks';
import { type Family, sideSign } from '../../../core/instrument/family';
import { nearestIndex } from '../../../core/nearestIndex';
import { doubtfulSpans } from '../../../core/take/doubt';
import { missingForMeasure } from '../../../core/take/missingForMeasure';
import { database } from '../../../store/database';
import type { MeasuresRecord } from '../../../store/records';
import { nextToConfirm, type TakeWithStudent } from '../../../store/takes';
import { InstrumentMap } from '../../drawings/InstrumentMap';
import { PlayerMap } from '../../drawings/PlayerMap';
import { type OpenFilm, useFramePicture } from '../../film/useFilm';
import { useLastMarked, useSaveTask, useSaveZoom } from '../../queries';
import { Button } from '../../ui/Button';
import { saveFile } from '../../ui/saveFile';
import { Tabs } from '../../ui/Tabs';
import { useKeys } from '../../ui/useKeys';
import { measuring } from '../measure/measuring';
import { InstrumentCard } from './InstrumentCard';
import { MarkStage } from './MarkStage';
import { acceptPoints, carriedOver, frameMarks, nudgePoint, placePoint, removePoint, toggleGuessed } from './marking';
import { askedByName, GROUPS, groupOf, type PointGroup } from './points';
import { StartLine } from './StartLine';
import { starting } from './starting';
import { useMarksWithUndo } from './useMarksWithUndo';
import { useOffers } from './useOffers';
import { useProposals } from './useProposals';
import { useStageBox } from './useStageBox';
import { useWires } from './useWires';
import { ViewLine } from './ViewLine';

type Point = [number, number];

const GROUP_NAMES = (Object.keys(GROUPS) as PointGroup[]).map((group) => [group, GROUPS[group].name] as const);

/** Marking a clip: step to a clear frame, place what is asked, see at once whether it fits. */
export function Prepare({ entry, film, measures }: { entry: TakeWithStudent; film: OpenFilm; measures: MeasuresRecord | null }) {
  const { take, student } = entry;
  const navigate = useNavigate();
  const saveTask = useSaveTask(take.id);
  const saveZoom = useSaveZoom(take.id);
  const { facts } = film;
  const fresh: Marks = {
    format: 'gestometra-marks/1',
    video: filmedAt(facts, take.zoom),
    instrument: { family: student.family, size: student.size, ...(student.side ? { side: student.side } : {}) },
    frames: [],
  };
  const kept = useMarksWithUndo(take.id, take.marks ?? fresh);
  // Marks say with which lens the film was taken, before there are any the take; where nobody said it, the film's own notes do.
  const own = useMemo(
    () => withNotedZoom(kept.marks.frames.length > 0 ? kept.marks : { ...kept.marks, video: filmedAt(facts, take.zoom) }, facts.zoom),
    [kept.marks, facts, take.zoom],
  );
  const [busy, setBusy] = useState(false);
  const last = useLastMarked(take.id).data;
  const proposals = useProposals(entry, own.frames.length > 0, busy);
  // What was found by itself stands in for marks until the teacher says yes, or takes it up.
  const marks = proposals.shown ?? own;
  const [search] = useSearchParams();
  const [group, setGroup] = useState<PointGroup>(search.get('mark') === 'hand' ? 'hand' : search.get('mark') === 'body' ? 'body' : 'instrument');
  const startTime = search.has('t') ? Number(search.get('t')) : marks.frames[0]?.t;
  const startFrame = startTime === undefined ? 0 : nearestIndex(facts.times, startTime);
  const [index, setIndex] = useState(startFrame);
  const [skipped, setSkipped] = useState<ReadonlySet<string>>(new Set());
  const [selected, setSelected] = useState<string>();
  const [plumbMode, setPlumbMode] = useState(false);
  const [plumbing, setPlumbing] = useState<Point[]>([]);
  const [pointer, setPointer] = useState<Point>();
  const stage = useRef<HTMLDivElement>(null);
  const box = useStageBox(stage, facts);
  const picture = useFramePicture(film, index);
  const solved = useWires(marks);
  const t = facts.times[index]!;
  const here = frameMarks(marks, t);
  const points = here?.points ?? {};
  const next = GROUPS[group].points.find((a) => !points[a.name] && !skipped.has(a.name));
  const asked = selected && askedByName.has(selected) ? askedByName.get(selected) : next;
  const missing = missingForMeasure(marks);
  const wire = solved.wires.find((w) => Math.abs(w.t - t) < 1e-4);
  const offered = useOffers(solved, marks, t, picture?.index === index ? picture.bitmap : undefined);
  const spans = measures ? doubtfulSpans(measures.measures) : [];

  useEffect(() => {
    if (proposals.shown) setIndex(nearestIndex(facts.times, proposals.shown.frames[0]!.t));
  }, [proposals.shown, facts.times]);

  const scale = box.width / facts.width;
  const change = (to: Marks) => {
    kept.change(to);
    proposals.leave();
  };
  const place = (point: Point) => {
    const inside: Point = [Math.min(facts.width, Math.max(0, point[0])), Math.min(facts.height, Math.max(0, point[1]))];
    if (plumbMode) {
      if (plumbing.length === 0) setPlumbing([inside]);
      else {
        change({ ...marks, plumb: [plumbing[0]!, inside] });
        setPlumbing([]);
        setPlumbMode(false);
      }
      return;
    }
    if (!asked) return;
    change(placePoint(marks, t, asked.name, inside));
    setSelected(undefined);
  };
  const lastPlaced = selected ?? Object.keys(points).at(-1);
  const nudge = (dx: number, dy: number) => {
    const name = lastPlaced;
    const p = name && points[name];
    if (!p) return;
    setSelected(name);
    change(nudgePoint(marks, t, name, [dx, dy]));
  };
  const go = (frames: number) => {
    setBusy(true);
    setIndex((i) => Math.min(facts.times.length - 1, Math.max(0, i + frames)));
    setSelected(undefined);
  };
  const measure = async () => {
    if (missing || solved.problem) return;
    if (proposals.shown) await kept.keep(marks);
    measuring.enqueue(take.id, 'next');
    const next = proposals.shown && (await nextToConfirm(database, take.id));
    await navigate(next ? `/takes/${next.id}/prepare` : `/takes/${take.id}/review`);
  };
  const adjust = () => proposals.shown && change(marks);
  const notInView = () => {
    if (!asked) return;
    if (points[asked.name]) {
      change(removePoint(marks, t, asked.name));
      setSelected(undefined);
    }
    setSkipped((s) => new Set([...s, asked.name]));
  };
  const accept = () => {
    if (Object.keys(offered).length === 0) return;
    change(acceptPoints(marks, t, offered));
    setSelected(undefined);
  };
  const togglePlumb = () => {
    setPlumbing([]);
    setPlumbMode((on) => !on);
  };
  const guess = () => asked && points[asked.name] && change(toggleGuessed(marks, t, asked.name));
  useKeys({
    ...(proposals.shown && { y: () => void measure(), j: adjust, n: proposals.another, x: proposals.leave }),
    ...(!proposals.shown && { x: notInView }),
    c: () => pointer && place(pointer),
    z: kept.undo,
    m: () => void measure(),
    h: guess,
    a: accept,
    p: togglePlumb,
    ...(!proposals.shown && { '1': () => show('instrument'), '2': () => show('hand'), '3': () => show('body') }),
    '[': () => go(-1),
    ']': () => go(1),
    ArrowLeft: () => nudge(-0.1, 0),
    ArrowRight: () => nudge(0.1, 0),
    ArrowUp: () => nudge(0, -0.1),
    ArrowDown: () => nudge(0, 0.1),
    'Shift+ArrowLeft': () => nudge(-1, 0),
    'Shift+ArrowRight': () => nudge(1, 0),
    'Shift+ArrowUp': () => nudge(0, -1),
    'Shift+ArrowDown': () => nudge(0, 1),
  });
  // Of what was found for another instrument nothing is kept.
  const setInstrument = (family: Family, size: string) => change({ ...own, instrument: { ...own.instrument, family, size } });
  const setSide = (left: boolean) => change({ ...own, instrument: { ...own.instrument, side: left ? 'left' : 'right' } });
  // What was found with another lens in mind is looked for anew; the teacher's own marks stay.
  const setZoom = async (said: number | undefined) => {
    if (own.frames.length > 0) return kept.change({ ...own, video: filmedAt(facts, said) });
    await saveZoom.mutateAsync(said);
    starting.enqueue(take.id, 'next');
  };
  const importMarks = async (file: File) => {
    try {
      const read = parseMarks(await file.text());
      if (read.video.width !== facts.width || read.video.height !== facts.height) {
        throw new Error(`These marks belong to a picture of ${read.video.width} x ${read.video.height}, this film has ${facts.width} x ${facts.height}.`);
      }
      change(read);
      setIndex(nearestIndex(facts.times, read.frames[0]!.t));
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const count = Object.keys(points).filter((name) => groupOf(name) === group).length;
  const show = (to: PointGroup) => {
    setGroup(to);
    setSelected(undefined);
  };

  return (
    <main className="grid grid-cols-[minmax(0,1fr)_308px] gap-5 px-5 max-[1100px]:grid-cols-[minmax(0,1fr)_268px] min-[1560px]:grid-cols-[minmax(0,1fr)_340px]">
      <section ref={stage} className={`min-w-0 ${facts.width < facts.height ? 'flex items-start gap-6' : ''}`}>
        <div style={{ width: box.width }} className="shrink-0">
          <MarkStage
            size={box}
            scale={scale}
            picture={picture?.bitmap}
            wire={wire}
            points={points}
            found={here?.found ?? []}
            guessed={here?.guessed ?? []}
            offered={offered}
            plumb={plumbing.length ? plumbing : (marks.plumb ?? [])}
            selected={selected}
            aim={pointer && (plumbMode || (asked && !selected)) ? pointer : undefined}
            pointer={pointer}
            onPointer={setPointer}
            mayBeMeant={(name) => !plumbMode && groupOf(name) === group}
            asked={asked?.name}
            onTakeUp={(name) => {
              setBusy(true);
              setSelected(name);
            }}
            onClick={(at) => {
              setBusy(true);
              if (!proposals.shown) place(at);
            }}
            onDrop={(name, at) => {
              change(placePoint(marks, t, name, at));
              setSelected(undefined);
            }}
          >
            {wire && !pointer && !proposals.shown && (
              <span className="absolute right-3 bottom-3 rounded-plate bg-film/85 px-5 py-1 text-white">
                {wire.worst.distance < 1.6 * (facts.width / 960)
                  ? 'the wire sits within a pixel or two of your marks'
                  : `${askedByName.get(wire.worst.landmark)?.title ?? wire.worst.landmark} is ${wire.worst.distance.toFixed(1)} px off the wire`}
              </span>
            )}
          </MarkStage>
          <div className="mt-2 flex items-center gap-3">
            <Button keyCap="[" aria-label="One frame back" onClick={() => go(-1)}>
              back
            </Button>
            <Button keyCap="]" aria-label="One frame on" onClick={() => go(1)}>
              on
            </Button>
            <input
              type="range"
              className="w-0 flex-1 accent-sea"
              min={0}
              max={facts.times.length - 1}
              value={index}
              aria-label="Frame"
              onChange={(e) => {
                setBusy(true);
                setIndex(Number(e.target.value));
              }}
            />
            <span className="text-right whitespace-nowrap tabular-nums">
              {t.toFixed(2)} of {facts.duration.toFixed(1)} s
            </span>
          </div>
        </div>
        <div className={facts.width < facts.height ? '' : 'mt-3 max-w-[912px]'}>
          <h2 className="text-name font-bold">
            {proposals.shown && !solved.problem ? 'Instrument and bow were found without a mark.' : headline(solved.problem, missing, Object.keys(points).length, group)}
          </h2>
          <StartLine entry={entry} marked={own.frames.length > 0} proposals={proposals} onCarry={last?.marks && (() => change(carriedOver(fresh, last.marks!, t)))} />
          {solved.problem && (
            <p role="alert" className="mt-1">
              {solved.problem}
            </p>
          )}
          {solved.fitness && <ViewLine fitness={solved.fitness} />}
          {spans.length > 0 && (
            <div className="mt-2">
              <p className="text-label text-soft">Not followed in the last measuring. One more mark there mends it:</p>
              <ul className="mt-1 flex flex-wrap gap-2">
                {spans.slice(0, 8).map((s) => (
                  <li key={s.firstFrame}>
                    <Button onClick={() => setIndex(nearestIndex(facts.times, (s.from + s.to) / 2))}>
                      {s.from.toFixed(1)} to {s.to.toFixed(1)} s, {s.why === 'bow-lost' ? 'bow' : 'instrument'}
                    </Button>
                  </li>
                ))}
              </ul>
            </div>
          )}
        </div>
      </section>
      <aside>
        {proposals.shown ? (
          <>
            <p className="text-label text-soft">found by itself{proposals.count > 1 ? `, frame ${proposals.place} of ${proposals.count}` : ''}</p>
            <h1 className="text-name font-bold">Does this lie on the instrument?</h1>
            <p className="min-h-10">
              {missing
                ? `The bow was not found here: adjust, and mark ${missing}.`
                : 'Look at the nut, the bridge and the bow. A point you drag is yours, and the drawing follows it.'}
            </p>
          </>
        ) : (
          <>
            <Tabs names={GROUP_NAMES} chosen={group} label="What is marked" onChoose={show} className="mb-2 gap-x-4" />
            <p className="text-label text-soft">
              {count} marked here{asked?.optional ? ', this one makes it surer' : ''}
            </p>
            <h1 className="text-name font-bold">{plumbMode ? 'An upright edge' : (asked?.title ?? 'All is marked')}</h1>
            <p className="min-h-10">
              {plumbMode
                ? `Click the ${plumbing.length ? 'other' : 'upper'} end of something that hangs or stands plumb: a door, a window, a shelf. It tells how the instrument is tilted.`
                : (asked?.hint ?? 'Measure now, or nudge a point with the arrow keys.')}
            </p>
            {group !== 'instrument' && <p className="mt-1 text-label text-soft">{GROUPS[group].gains}</p>}
          </>
        )}
        <div className="my-3">
          {group === 'instrument' || proposals.shown ? (
            <InstrumentMap width={308} height={204} marked={new Set(Object.keys(points))} asked={asked?.name} flipped={sideSign(marks.instrument.family) < 0} />
          ) : (
            <PlayerMap width={308} height={group === 'hand' ? 200 : 236} of={group} marked={new Set(Object.keys(points))} asked={asked?.name} />
          )}
        </div>
        {proposals.shown ? (
          <div className="flex flex-wrap gap-2">
            <Button kind="main" keyCap="Y" disabled={missing !== undefined || solved.problem !== undefined} onClick={() => void measure()}>
              Yes, measure
            </Button>
            <Button keyCap="J" onClick={adjust}>
              Adjust
            </Button>
            <Button keyCap="N" disabled={proposals.count < 2} onClick={proposals.another}>
              Another frame
            </Button>
            <Button keyCap="X" onClick={proposals.leave}>
              Mark by hand
            </Button>
          </div>
        ) : (
          <div className="flex flex-wrap gap-2">
            <Button keyCap="C" disabled={!asked} onClick={() => pointer && place(pointer)}>
              Place here
            </Button>
            <Button keyCap="A" disabled={Object.keys(offered).length === 0} onClick={accept}>
              Accept the rest
            </Button>
            <Button keyCap="X" disabled={!asked} onClick={notInView}>
              Not in view
            </Button>
            <Button keyCap="Z" disabled={!kept.canUndo} onClick={kept.undo}>
              Undo
            </Button>
            <Button keyCap="P" aria-pressed={plumbMode} onClick={togglePlumb}>
              {marks.plumb ? 'Plumb line anew' : 'Plumb line'}
            </Button>
            {selected && (
              <Button keyCap="H" onClick={guess}>
                {here?.guessed?.includes(selected) ? 'It is in view' : 'Hidden, by guess'}
              </Button>
            )}
          </div>
        )}
        {!proposals.shown && <p className="mt-2 text-label text-soft">Arrow keys nudge by a tenth of a pixel, with Shift by one. Click a mark to take it up again, or drag it.</p>}
        <InstrumentCard
          marks={marks}
          onInstrument={setInstrument}
          onSide={setSide}
          onZoom={(said) => void setZoom(said)}
          zoomByMarks={solved.fitness?.zoom}
          zoomNoted={facts.zoom !== undefined}
          task={take.task ?? 'ordinary'}
          onTask={(task) => saveTask.mutate(task)}
          onLoad={(file) => void importMarks(file)}
          onSave={() => saveFile(`${take.title}.marks.json`, marksToText(marks), 'application/json')}
          {...(proposals.shown ? {} : { measure: { disabled: missing !== undefined || solved.problem !== undefined, now: () => void measure() } })}
        />
      </aside>
    </main>
  );
}

/** What a film shows, with its zoom where that was said. */
const filmedAt = ({ width, height }: { readonly width: number; readonly height: number }, zoom: number | undefined): Marks['video'] => ({
  width,
  height,
  ...(zoom === undefined ? {} : { zoom }),
});

function headline(problem: string | undefined, missing: string | undefined, count: number, group: PointGroup): string {
  if (problem) return 'Something does not fit.';
  if (!missing && count === 0 && group !== 'instrument') return `Step to a frame in which the ${group === 'hand' ? 'bow hand' : 'player'} is clear, then mark.`;
  if (count === 0) return 'Step to a frame in which instrument and bow are clear, then mark.';
  if (missing) return `Still wanted: ${missing}.`;
  return 'This is enough to measure.';
}
