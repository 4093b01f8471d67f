import { format, parseISO } from 'date-fns';
import { useCallback, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Finding } from '../../../core/findings/finding';
import { stringLevels, stringLines } from '../../../core/instrument/strings';
import { nearestIndex } from '../../../core/nearestIndex';
import { sinceLast } from '../../../core/progress/sinceLast';
import { DISMISSAL_REASONS } from '../../../core/rubric/dismissals';
import { bandsFor } from '../../../core/rubric/rubric';
import { eventsOf } from '../../../core/take/analyse';
import { doubtfulSpans } from '../../../core/take/doubt';
import { database } from '../../../store/database';
import type { MeasuresRecord, Verdict } from '../../../store/records';
import { stageIn, type TakeWithStudent } from '../../../store/takes';
import { LevelFan } from '../../drawings/LevelFan';
import { RIBBON_HEIGHT, StrokeRibbon } from '../../drawings/StrokeRibbon';
import { BowSign } from '../../drawings/signs';
import type { Sign } from '../../drawings/tokens';
import { degrees, ordinal, partOfBow } from '../../drawings/words';
import { drawnBy } from '../../drawnBy';
import type { OpenFilm } from '../../film/useFilm';
import { useJudged, useRubricOf } from '../../judged';
import { useSaveSoundShift, useTakeBefore, useVerdicts } from '../../queries';
import { queryClient } from '../../queryClient';
import { useKeys } from '../../ui/useKeys';
import { closeCourses, ZOOMS, type Zoom } from './closeView';
import { Docket } from './Docket';
import { FilmPane } from './FilmPane';
import { FindingsList } from './FindingsList';
import { calmWords, levelCaption, levelWords, whyNoArm, whyUpDoubtful } from './frameWords';
import { LowerDrawing, type LowerTab } from './LowerDrawing';
import { overlayOf } from './overlay';
import { PlanFigure } from './PlanFigure';
import { useReviewLayout } from './reviewLayout';
import { TakeExports } from './TakeExports';
import { useVerdictSteps } from './useVerdictSteps';

/** The drawing that shows a finding; without one, the crossings of a take that is about them. */
function tabFor(finding: Finding | undefined, crossings: number): LowerTab {
  if (!finding) return crossings >= 3 ? 'crossings' : 'arm';
  const drawing = drawnBy(finding);
  // The plan is always there; beside it the arm tells most of how the bow came to lie so.
  return drawing === 'plan' ? 'arm' : drawing;
}

/** Film, drawings and findings of a measured take, all in step. */
export function Review({ entry, film, blob, record }: { entry: TakeWithStudent; film: OpenFilm; blob: Blob; record: MeasuresRecord }) {
  const { take, student } = entry;
  const { measures } = record;
  const navigate = useNavigate();
  const layout = useReviewLayout();
  const verdicts = useVerdicts(take.id);
  const earlier = useTakeBefore(take.id).data ?? undefined;
  const { soundShift: shift, task } = take;
  const judged = useJudged(record, entry, verdicts.data);
  const saveSoundShift = useSaveSoundShift(take.id);
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
  const steps = useVerdictSteps(take.id, finding, judged, verdicts.data);
  const [adjusting, setAdjusting] = useState(false);
  const [loop, setLoop] = useState(false);
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
    steps.forgetEcho();
    setNoting(false);
    setAdjusting(false);
    seek((findings[i].from + findings[i].to) / 2);
  };
  const judge = (verdict: Verdict) => {
    if (chosen + 1 < findings.length) choose(chosen + 1);
    steps.judge(verdict);
  };
  const undo = () => {
    const fault = steps.undo();
    if (fault)
      choose(
        Math.max(
          0,
          findings.findIndex((f) => f.fault === fault),
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
    ...(steps.echo?.verdict === 'dismissed' && !steps.echo.reason && Object.fromEntries(DISMISSAL_REASONS.map((reason, i) => [String(i + 1), () => steps.giveReason(reason)]))),
    a: () => finding && setAdjusting((on) => !on),
    l: () => setLoop((on) => !on),
    g: () => setZoom((z) => ZOOMS[(ZOOMS.indexOf(z) + 1) % ZOOMS.length]!),
    f: steps.toggleFocus,
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
  const since = useMemo(() => {
    const last = finding && earlier && sinceLast(finding, measures, earlier.record.measures, bands);
    return last && { last, when: format(parseISO(earlier.take.filmedOn), 'd MMM') };
  }, [finding, measures, earlier, bands]);
  const skew = frame.values.skew_deg;
  const unjudged = judged?.judgement.unjudged ?? [];
  const lost = doubtfulSpans(measures);
  const hints = [whyUpDoubtful(measures), whyNoArm(measures)].filter((why) => why !== undefined);
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
            <PlanFigure
              take={measures}
              index={index}
              stroke={stroke}
              size={layout.plan}
              strings={strings}
              bands={bands}
              angleSign={angleSign}
              contactSign={contactSign}
              earlier={earlier}
              showBefore={showBefore}
              onShowBefore={setShowBefore}
            />
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
          echo={steps.echo}
          onReason={steps.giveReason}
          adjusting={adjusting}
          onAdjusting={setAdjusting}
          onAdjust={steps.adjust}
          noting={noting}
          calm={calmWords(unjudged.length > 0, measures.frames)}
          onConfirm={() => judge('confirmed')}
          onDismiss={() => judge('dismissed')}
          isFocus={finding !== undefined && (judged?.foci.includes(finding) ?? false)}
          onFocus={steps.toggleFocus}
          onNote={setNoting}
          onSaveNote={steps.note}
          onUndo={undo}
          onDone={() => void done()}
        />
        <FindingsList
          takeId={take.id}
          judged={judged}
          chosen={finding}
          onChoose={choose}
          asides={[...unjudged.map((u) => u.why), ...hints]}
          lost={lost}
          onDone={() => void done()}
          narrow={narrow}
          menu={<TakeExports entry={entry} record={record} film={film} judged={judged} index={index} stroke={stroke} span={span} />}
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
