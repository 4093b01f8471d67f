import { format, parseISO } from 'date-fns';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import type { Finding } from '../../../core/findings/finding';
import { eventsToText } from '../../../core/formats/eventsJson';
import { findingsToText } from '../../../core/formats/findingsJson';
import { marksToText } from '../../../core/formats/marks';
import { measuresToCsv } from '../../../core/formats/measuresCsv';
import { straysToCsv } from '../../../core/formats/straysCsv';
import { sideSign } from '../../../core/instrument/family';
import { stringLevels, stringLines } from '../../../core/instrument/strings';
import { nearestIndex } from '../../../core/nearestIndex';
import { MOST_FOCI } from '../../../core/practice/weekPlan';
import { earlierBow, sinceLast } from '../../../core/progress/sinceLast';
import { DISMISSAL_REASONS, type DismissalReason } from '../../../core/rubric/dismissals';
import { bandsFor } from '../../../core/rubric/rubric';
import { eventsOf } from '../../../core/take/analyse';
import { doubtfulSpans } from '../../../core/take/doubt';
import { database } from '../../../store/database';
import type { Adjustment, MeasuresRecord, Verdict, VerdictRecord } from '../../../store/records';
import { stageIn, type TakeWithStudent } from '../../../store/takes';
import { LevelFan } from '../../drawings/LevelFan';
import { StringPlan } from '../../drawings/StringPlan';
import { RIBBON_HEIGHT, StrokeRibbon } from '../../drawings/StrokeRibbon';
import { BowSign } from '../../drawings/signs';
import type { Sign } from '../../drawings/tokens';
import { degrees, millimetres, ordinal, partOfBow, plusMinus, skewInWords } from '../../drawings/words';
import { drawnBy } from '../../drawnBy';
import { evidenceClip, evidenceStill } from '../../evidence/evidence';
import type { OpenFilm } from '../../film/useFilm';
import { faultTitle } from '../../findingWords';
import { useJudged, useRubricOf } from '../../judged';
import { useSaveSoundShift, useSaveVerdict, useTakeBefore, useVerdicts } from '../../queries';
import { queryClient } from '../../queryClient';
import { saveBlob, saveFile } from '../../ui/saveFile';
import { useKeys } from '../../ui/useKeys';
import { closeCourses, ZOOMS, type Zoom } from './closeView';
import { Docket, type Echo } from './Docket';
import { ExportMenu } from './ExportMenu';
import { FilmPane } from './FilmPane';
import { FindingsList } from './FindingsList';
import { calmWords, levelCaption, levelWords, onPlan, planWords, whyNoArm } from './frameWords';
import { LowerDrawing, type LowerTab } from './LowerDrawing';
import { overlayOf } from './overlay';

interface Layout {
  readonly margin: number;
  readonly film: readonly [number, number];
  readonly plan: readonly [number, number];
  readonly third: number;
  readonly total: number;
}

/** Sizes of the visual language for 1024, 1280 and 1600 wide. */
function layoutFor(width: number): Layout {
  if (width >= 1600) return { margin: 20, film: [880, 495], plan: [384, 439], third: 272, total: 1560 };
  if (width >= 1270) return { margin: 20, film: [704, 396], plan: [300, 340], third: 212, total: 1240 };
  return { margin: 16, film: [592, 333], plan: [232, 277], third: 144, total: 992 };
}

function useLayout(): Layout {
  const [layout, setLayout] = useState(() => layoutFor(window.innerWidth));
  useEffect(() => {
    const resize = () => setLayout(layoutFor(window.innerWidth));
    window.addEventListener('resize', resize);
    return () => window.removeEventListener('resize', resize);
  }, []);
  return layout;
}

/** The drawing that shows a finding; without one, the crossings of a take that is about them. */
function tabFor(finding: Finding | undefined, crossings: number): LowerTab {
  if (!finding) return crossings >= 3 ? 'crossings' : 'arm';
  const drawing = drawnBy(finding);
  // The plan is always there; beside it the arm tells most of how the bow came to lie so.
  return drawing === 'plan' ? 'arm' : drawing;
}

/** A step that can be taken back: what the record of a fault held before. */
interface Change {
  readonly fault: string;
  readonly before: Omit<VerdictRecord, 'takeId' | 'fault'>;
}

/** Film, drawings and findings of a measured take, all in step. */
export function Review({ entry, film, blob, record }: { entry: TakeWithStudent; film: OpenFilm; blob: Blob; record: MeasuresRecord }) {
  const { take, student } = entry;
  const { measures } = record;
  const navigate = useNavigate();
  const layout = useLayout();
  const verdicts = useVerdicts(take.id);
  const earlier = useTakeBefore(take.id).data ?? undefined;
  const { soundShift: shift, task } = take;
  const judged = useJudged(record, entry, verdicts.data);
  const saveSoundShift = useSaveSoundShift(take.id);
  const saveVerdict = useSaveVerdict(take.id);
  const rubric = useRubricOf(student);
  const stage = stageIn(entry);
  const bands = useMemo(() => bandsFor(rubric, stage), [rubric, stage]);
  const strings = useMemo(() => stringLines(measures.solution.model, measures.family), [measures]);
  const levels = useMemo(() => stringLevels(measures.solution.model, measures.family), [measures]);
  const names = useMemo(() => strings.map((l) => l.name), [strings]);
  const events = useMemo(() => eventsOf(measures, { shift, task }), [measures, shift, task]);
  const heard = useMemo(() => ({ notes: events.notes.map((n) => ({ from: n.from, to: n.to, string: names[n.string]! })), strays: events.strays }), [events, names]);
  const findings = judged?.judgement.findings ?? [];
  const times = useMemo(() => measures.frames.map((f) => f.t), [measures]);
  const frameAt = (t: number) => nearestIndex(times, t);
  const [chosen, setChosen] = useState(0);
  const finding: Finding | undefined = findings[Math.min(chosen, findings.length - 1)];
  const startAt = finding ? frameAt((finding.from + finding.to) / 2) : frameAt(measures.strokes[0]?.from ?? 0);
  const [index, setIndex] = useState(startAt);
  const [playing, setPlaying] = useState(false);
  const [half, setHalf] = useState(false);
  const [tab, setTab] = useState<LowerTab>(tabFor(finding, events.crossings.length));
  const [noting, setNoting] = useState(false);
  const [past, setPast] = useState<Change[]>([]);
  const [echo, setEcho] = useState<Echo>();
  const [adjusting, setAdjusting] = useState(false);
  const [loop, setLoop] = useState(false);
  const [covered, setCovered] = useState(true);
  const [zoom, setZoom] = useState<Zoom>('whole');
  const [showBefore, setShowBefore] = useState(false);

  const frame = measures.frames[index]!;
  const stroke = measures.strokes.find((s) => frame.t >= s.from - 0.02 && frame.t <= s.to + 0.02);
  const sign = finding && judged ? judged.signOf(finding) : 'within';
  const signAt = useCallback(
    (quantities: readonly string[], t: number, strokeIndex?: number): Sign => {
      for (const f of findings) {
        if (!quantities.includes(f.quantity)) continue;
        const s = judged!.signOf(f);
        if (s !== 'dismissed' && f.stretches.some((p) => t >= p.from - 0.02 && t <= p.to + 0.02 && (strokeIndex === undefined || p.stroke === strokeIndex))) return s;
      }
      return 'within';
    },
    [findings, judged],
  );
  const angleSign: Sign = frame.values.skew_deg ? signAt(['skew_deg'], frame.t) : 'unjudged';
  const contactSign = signAt(['contact_fraction'], frame.t);
  const armSign = signAt(['skew_deg', 'arm_bow_gap_deg', 'elbow_behind', 'elbow_rise_deg'], frame.t);

  const seek = (t: number) => {
    setPlaying(false);
    setIndex(frameAt(t));
  };
  const choose = (i: number) => {
    if (!findings[i]) return;
    setChosen(i);
    setTab(tabFor(findings[i], events.crossings.length));
    setEcho(undefined);
    setNoting(false);
    setAdjusting(false);
    seek((findings[i].from + findings[i].to) / 2);
  };
  /** Writes a word on a fault so that it can be taken back. */
  const say = (fault: string, change: Parameters<typeof saveVerdict.mutate>[0] extends infer C ? Omit<C, 'fault'> : never) => {
    const { verdict, reason, value, adjusted, note, focus } = verdicts.data?.find((v) => v.fault === fault) ?? { takeId: take.id, fault };
    const before = { verdict, reason, value, adjusted, note, focus } as Change['before'];
    setPast((p) => [...p, { fault, before }]);
    saveVerdict.mutate({ fault, ...change });
  };
  const judge = (verdict: Verdict) => {
    if (!finding) return;
    say(finding.fault, { verdict, value: finding.value.value, reason: undefined, ...(verdict === 'dismissed' ? { focus: undefined } : {}) });
    if (chosen + 1 < findings.length) choose(chosen + 1);
    setEcho({ fault: finding.fault, verdict });
  };
  const giveReason = (reason: DismissalReason) => {
    if (echo?.verdict !== 'dismissed') return;
    saveVerdict.mutate({ fault: echo.fault, reason });
    setEcho({ ...echo, reason });
  };
  const adjust = (adjusted: Adjustment) => {
    if (!finding) return;
    say(finding.fault, { verdict: 'confirmed', value: finding.value.value, adjusted });
  };
  const toggleFocus = () => {
    if (!finding || !judged) return;
    const is = judged.foci.includes(finding);
    if (!is && judged.foci.length >= MOST_FOCI) {
      toast(`A week has at most ${MOST_FOCI} foci: ${judged.foci.map((f) => faultTitle(f).replace(/\.$/, '')).join('; ')}. Take one back first.`);
      return;
    }
    // A focus is a finding the teacher agrees with.
    say(finding.fault, { focus: !is, ...(is ? {} : { verdict: 'confirmed' as const, value: finding.value.value }) });
  };
  const undo = () => {
    const last = past.at(-1);
    if (!last) return;
    setPast((p) => p.slice(0, -1));
    saveVerdict.mutate({ fault: last.fault, ...last.before });
    choose(
      Math.max(
        0,
        findings.findIndex((f) => f.fault === last.fault),
      ),
    );
  };
  const bow = (step: number) => {
    const strokes = measures.strokes;
    if (strokes.length === 0) return;
    const now = stroke?.index ?? strokes.findLast((s) => s.to < frame.t)?.index ?? -1;
    const next = strokes[Math.min(strokes.length - 1, Math.max(0, now + step))]!;
    seek((next.from + next.to) / 2);
  };
  const stepFrame = (by: number) => {
    setPlaying(false);
    setIndex((i) => Math.min(measures.frames.length - 1, Math.max(0, i + by)));
  };
  const stepStray = (step: 1 | -1) => {
    const stray = step > 0 ? events.strays.find((s) => s.from > frame.t + 0.05) : events.strays.findLast((s) => s.to < frame.t - 0.05);
    if (!stray) return;
    setTab('crossings');
    seek((stray.from + stray.to) / 2);
  };
  const done = async () => {
    await database.takes.update(take.id, { reviewedAt: new Date().toISOString(), reviewedWith: { rubric: rubric.id, version: rubric.version } });
    await queryClient.invalidateQueries({ queryKey: ['takes'] });
    await navigate('/');
  };
  useKeys({
    ' ': () => setPlaying((p) => !p),
    ArrowLeft: () => bow(-1),
    ArrowRight: () => bow(1),
    'Shift+ArrowLeft': () => stepFrame(-1),
    'Shift+ArrowRight': () => stepFrame(1),
    ArrowUp: () => choose(chosen - 1),
    ArrowDown: () => choose(chosen + 1),
    s: () => setHalf((h) => !h),
    c: () => judge('confirmed'),
    x: () => judge('dismissed'),
    ...(echo?.verdict === 'dismissed' && !echo.reason && Object.fromEntries(DISMISSAL_REASONS.map((reason, i) => [String(i + 1), () => giveReason(reason)]))),
    a: () => finding && setAdjusting((on) => !on),
    l: () => setLoop((on) => !on),
    g: () => setZoom((z) => ZOOMS[(ZOOMS.indexOf(z) + 1) % ZOOMS.length]!),
    f: toggleFocus,
    b: () => earlier && setShowBefore((on) => !on),
    n: () => finding && setNoting(true),
    z: undo,
    '[': () => stepStray(-1),
    ']': () => stepStray(1),
  });

  const overlay = useMemo(() => overlayOf(measures, index), [measures, index]);
  const courses = useMemo(() => closeCourses(measures), [measures]);
  const close = zoom === 'whole' ? undefined : courses[zoom]?.[index];
  // What a loop runs through: the bow at hand, a breath before and after.
  const span = stroke && ([Math.max(0, stroke.from - 0.15), Math.min(film.facts.duration, stroke.to + 0.15)] as const);
  const trail = useMemo(() => {
    if (!stroke) return [];
    return measures.frames
      .slice(stroke.first, index)
      .filter((_, i, all) => (all.length - i) % 3 === 0)
      .flatMap((f) => onPlan(f) ?? []);
  }, [measures, stroke, index]);
  const onBow = onPlan(frame);
  const since = useMemo(() => {
    const last = finding && earlier && sinceLast(finding, measures, earlier.record.measures, bands);
    return last && { last, when: format(parseISO(earlier.take.filmedOn), 'd MMM') };
  }, [finding, measures, earlier, bands]);
  const before = showBefore && earlier && frame.values.bow_position ? earlierBow(earlier.record.measures, frame.string, frame.values.bow_position.value) : undefined;
  const skew = frame.values.skew_deg;
  const contact = frame.values.contact_mm;
  const fraction = frame.values.contact_fraction;
  /** Saves a picture or clip once it is made; says why when it cannot be. */
  const give = async (making: Promise<Blob>, fileName: string) => {
    try {
      saveBlob(fileName, await making);
    } catch (error) {
      toast(`It could not be made: ${(error as Error).message}`);
    }
  };
  const name = entry.take.title.replace(/[^\w-]+/g, '-');
  const unjudged = judged?.judgement.unjudged ?? [];
  const lost = doubtfulSpans(measures);
  const noArm = whyNoArm(measures);
  const narrow = layout.total < 1100;

  return (
    <main className="mx-auto" style={{ width: layout.total }}>
      <div className="flex gap-3">
        <div>
          <FilmPane
            film={film}
            blob={blob}
            width={layout.film[0]}
            height={layout.film[1]}
            index={index}
            playing={playing}
            half={half}
            loop={loop ? span : undefined}
            close={close}
            overlay={overlay}
            angleSign={angleSign}
            angle={skew && (angleSign === 'found' || angleSign === 'confirmed') ? degrees(skew.value) : undefined}
            caption={
              stroke ? (
                <>
                  <svg width={12} height={12} viewBox="-6 -6 12 12" aria-hidden>
                    <BowSign x={0} y={0} direction={stroke.direction} color="#fff" />
                  </svg>
                  {ordinal(stroke.index)} bow{frame.values.bow_position ? `, ${partOfBow(frame.values.bow_position.value)}` : ''}
                </>
              ) : (
                'between bows'
              )
            }
            clock={`${frame.t.toFixed(2)} of ${film.facts.duration.toFixed(1)} s`}
            onIndex={setIndex}
            onEnd={() => setPlaying(false)}
            onToggle={() => setPlaying((p) => !p)}
          />
        </div>
        <div>
          <div className="flex gap-3">
            <figure style={{ width: layout.plan[0] }}>
              <StringPlan
                width={layout.plan[0]}
                height={layout.plan[1]}
                model={measures.solution.model}
                strings={strings}
                side={sideSign(measures.family)}
                hair={measures.dimensions.hair}
                bands={bands}
                {...(onBow ? { bow: onBow } : {})}
                trail={trail}
                before={before}
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
                    onClick={() => setShowBefore((on) => !on)}
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
            <div style={{ width: layout.third }}>
              <figure>
                <LevelFan
                  width={layout.third}
                  height={Math.round(layout.third * 0.71)}
                  strings={strings}
                  levels={levels}
                  bridgeRadius={measures.solution.model.dimensions.bridgeRadius}
                  string={frame.string}
                  inclination={frame.values.inclination_deg}
                  margin={frame.values.level_margin_deg?.value}
                  label={levelWords(frame)}
                />
                <figcaption className="mt-1 text-label">{levelCaption(frame)}</figcaption>
              </figure>
              <LowerDrawing
                take={measures}
                film={film}
                index={index}
                stroke={stroke}
                width={layout.third}
                bands={bands}
                armSign={armSign}
                signOf={(quantities) => signAt(quantities, frame.t)}
                handPlaced={take.marks?.frames.some((f) => Object.keys(f.points).some((n) => n.startsWith('hand.bow.'))) ?? false}
                shown={tab}
                onShow={setTab}
                onSeek={seek}
                crossings={{
                  events,
                  levels,
                  strings: names,
                  apart: bands.crossingLag.fault / 1000,
                  late: measures.sound?.late,
                  shift,
                  onShift: (value) => saveSoundShift.mutate(value),
                  onStray: stepStray,
                }}
              />
            </div>
          </div>
        </div>
      </div>
      <div className={narrow ? 'mt-1' : 'mt-3 grid gap-3'} style={narrow ? {} : { gridTemplateColumns: `${layout.film[0]}px 1fr` }}>
        <Docket
          finding={finding}
          sign={sign}
          note={finding && judged?.noteOf(finding)}
          bands={bands}
          since={since}
          echo={echo}
          onReason={giveReason}
          adjusting={adjusting}
          onAdjusting={setAdjusting}
          onAdjust={adjust}
          noting={noting}
          calm={calmWords(unjudged.length > 0, measures.frames)}
          onConfirm={() => judge('confirmed')}
          onDismiss={() => judge('dismissed')}
          isFocus={finding !== undefined && (judged?.foci.includes(finding) ?? false)}
          onFocus={toggleFocus}
          onNote={setNoting}
          onSaveNote={(note) => finding && saveVerdict.mutate({ fault: finding.fault, note: note.trim() || undefined })}
          onUndo={undo}
          onDone={() => void done()}
        />
        <FindingsList
          takeId={take.id}
          judged={judged}
          chosen={finding}
          onChoose={choose}
          asides={[...unjudged.map((u) => u.why), ...(noArm ? [noArm] : [])]}
          lost={lost}
          onDone={() => void done()}
          narrow={narrow}
          menu={
            <ExportMenu
              covered={covered}
              onCover={setCovered}
              pictures={[
                { label: 'This moment, PNG', action: () => void give(evidenceStill(film, measures, index, { covered }), `${name}.${frame.t.toFixed(2)}s.png`) },
                ...(span
                  ? [
                      {
                        label: 'This bow at half speed, WebM',
                        action: () => void give(evidenceClip(film, measures, span, 0.5, { covered }), `${name}.bow-${stroke!.index + 1}.webm`),
                      },
                    ]
                  : []),
              ]}
              files={[
                { label: 'Measures, CSV', action: () => saveFile(`${name}.measures.csv`, measuresToCsv(measures.frames), 'text/csv') },
                { label: 'Bows, JSON', action: () => saveFile(`${name}.events.json`, eventsToText(measures, { shift, task }), 'application/json') },
                { label: 'Stray strings, CSV', action: () => saveFile(`${name}.strays.csv`, straysToCsv(events.strays), 'text/csv') },
                {
                  label: 'Findings, JSON',
                  action: () => judged && saveFile(`${name}.findings.json`, findingsToText(judged.judgement, rubric, stage), 'application/json'),
                },
                { label: 'Marks, JSON', action: () => saveFile(`${name}.marks.json`, marksToText(record.marks), 'application/json') },
              ]}
            />
          }
        />
      </div>
      <div className={narrow ? 'mt-1' : 'mt-2'} style={{ height: RIBBON_HEIGHT }}>
        <StrokeRibbon
          width={layout.total}
          left={88}
          frames={measures.frames}
          strokes={measures.strokes}
          duration={film.facts.duration}
          bands={bands}
          now={frame.t}
          slices={judged?.slices ?? []}
          signOf={(s, t) => signAt(['skew_deg'], t, s)}
          {...(heard.notes.length > 0 ? { sound: heard } : {})}
          onSeek={seek}
        />
      </div>
    </main>
  );
}
