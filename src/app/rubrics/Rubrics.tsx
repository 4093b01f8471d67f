import { ChevronLeft } from 'lucide-react';
import { useDeferredValue, useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import { FAULTS } from '../../core/findings/faults';
import { rubricToText } from '../../core/formats/rubricJson';
import { BAND_GROUPS, type BandName } from '../../core/rubric/bandFacts';
import { type RuleRecord, ruleRecords, type Word } from '../../core/rubric/dismissals';
import { asksTheSame, type BandPatch, changeBand, changeWord, copyRubric, renameRubric, saysTheSame } from '../../core/rubric/editing';
import { MIDDLE_OF_STRIP, type Rubric, rubricById, SOUND_WORDS, SOUNDS, type Sound } from '../../core/rubric/rubric';
import { titleOf, whatChanges } from '../../core/rubric/whatChanges';
import { judgeTake } from '../../core/take/analyse';
import { stageIn } from '../../store/takes';
import { useDeleteRubric, useJudgedTakes, useRubrics, useSaveRubric } from '../queries';
import { Button } from '../ui/Button';
import { saveFile } from '../ui/saveFile';
import { BandRow } from './BandRow';

/** Takes a change is tried on: the newest. */
const TRIED = 40;

/** Schools and their bands: what each asks, what another band would tell of the takes there are, how each rule fared. */
export function Rubrics() {
  const { id = MIDDLE_OF_STRIP.id } = useParams();
  const rubrics = useRubrics();
  if (!rubrics.data) return <p className="p-10 text-center">Opening…</p>;
  const kept = rubrics.data.find((r) => r.id === id) ?? rubrics.data[0]!;
  return (
    <div className="mx-auto min-h-screen max-w-[1280px] px-5 pb-10">
      <header className="flex h-11 items-center gap-3">
        <Link to="/" className="inline-flex items-center gap-1 font-semibold">
          <ChevronLeft size={18} /> Desk
        </Link>
        <span className="h-5 border-l border-rule" />
        <span className="text-label text-soft">What is asked of whom</span>
      </header>
      <main className="grid grid-cols-[208px_minmax(0,1fr)] gap-7">
        <nav aria-label="Rubrics">
          <h1 className="mt-2 text-desk font-bold">Rubrics</h1>
          <ul className="mt-2">
            {rubrics.data.map((r) => (
              <li key={r.id} className="border-t border-rule">
                <Link to={`/rubrics/${r.id}`} aria-current={r.id === kept.id ? 'page' : undefined} className={`block py-1.5 ${r.id === kept.id ? 'font-semibold' : ''}`}>
                  {r.name}
                  <span className="block text-label font-normal text-soft">{rubricById(r.id) ? 'a school, as it comes' : `your own, version ${r.version}`}</span>
                </Link>
              </li>
            ))}
          </ul>
        </nav>
        <Editor key={`${kept.id} ${kept.version}`} kept={kept} />
      </main>
    </div>
  );
}

function Editor({ kept }: { kept: Rubric }) {
  const navigate = useNavigate();
  const save = useSaveRubric();
  const remove = useDeleteRubric();
  const takes = useJudgedTakes(TRIED);
  const own = !rubricById(kept.id);
  const [draft, setDraft] = useState(kept);
  const [problem, setProblem] = useState<{ band: BandName; words: string }>();
  const tried = useDeferredValue(draft);
  const changed = !asksTheSame(draft, kept) || !saysTheSame(draft, kept) || draft.name !== kept.name;

  const mine = useMemo(() => (takes.data ?? []).filter((t) => t.student.rubric === kept.id), [takes.data, kept.id]);
  // A rubric nobody is judged by yet is tried on everyone's takes.
  const on = mine.length > 0 ? mine : (takes.data ?? []);
  const before = useMemo(() => on.map((t) => judgeTake(t.record.measures, kept, stageIn(t), { shift: t.take.soundShift, task: t.take.task })), [on, kept]);
  const after = useMemo(
    () => (asksTheSame(tried, kept) ? before : on.map((t) => judgeTake(t.record.measures, tried, stageIn(t), { shift: t.take.soundShift, task: t.take.task }))),
    [on, tried, kept, before],
  );
  const changes = on.map((t, i) => ({ ...t, ...whatChanges(before[i]!, after[i]!) })).filter((c) => c.gone.length + c.fresh.length > 0);
  const records = useMemo(
    () =>
      ruleRecords(
        mine.flatMap((t) => t.verdicts).flatMap((v): Word[] => (v.verdict ? [{ ...v, verdict: v.verdict }] : [])),
        kept.bands,
      ),
    [mine, kept.bands],
  );

  const change = (band: BandName, patch: BandPatch) => {
    try {
      setDraft(changeBand(draft, band, patch));
      setProblem(undefined);
    } catch (error) {
      setProblem({ band, words: (error as Error).message });
    }
  };
  const keep = async () => {
    const saved = await save.mutateAsync(draft);
    toast(saved.version > 1 ? `Kept as version ${saved.version}. Takes of its students are judged by it from now on.` : 'Kept.');
  };
  const copy = async () => {
    const saved = await save.mutateAsync(copyRubric(draft, crypto.randomUUID(), `${kept.name}, my way`));
    await navigate(`/rubrics/${saved.id}`);
  };
  const giveUp = async () => {
    try {
      await remove.mutateAsync(kept.id);
      await navigate('/rubrics');
    } catch (error) {
      toast((error as Error).message);
    }
  };

  const groups = BAND_GROUPS.map(([title, names]) => [title, names.filter((name) => draft.bands[name])] as const);
  const foundOn = (name: BandName) => {
    const faults = new Set(FAULTS.filter((f) => f.band(tried.bands) === tried.bands[name]).map((f) => f.id));
    return after.flatMap((j) => j.findings.filter((f) => faults.has(f.fault)).map((f) => f.value.value));
  };
  return (
    <section aria-label={draft.name}>
      <div className="mt-2 flex items-center justify-between gap-4">
        {own ? (
          <input
            aria-label="Name of the rubric"
            className="h-9 w-80 rounded-card border border-rule bg-white px-2 font-serif text-name font-bold"
            value={draft.name}
            onChange={(e) => setDraft((d) => (e.target.value.trim() ? renameRubric(d, e.target.value) : d))}
          />
        ) : (
          <h2 className="text-name font-bold">{draft.name}</h2>
        )}
        <span className="flex gap-2">
          <Button kind="quiet" onClick={() => saveFile(`${draft.name.replace(/[^\w-]+/g, '-')}.rubric.json`, rubricToText(draft), 'application/json')}>
            Save as a file
          </Button>
          {own && (
            <Button kind="quiet" onClick={() => void giveUp()}>
              Give up
            </Button>
          )}
          <Button kind={own ? 'plain' : 'main'} onClick={() => void copy()}>
            {changed && !own ? 'Keep as a copy of mine' : 'Make a copy'}
          </Button>
          {own && (
            <Button kind="main" disabled={!changed} onClick={() => void keep()}>
              Keep as version {kept.version + 1}
            </Button>
          )}
        </span>
      </div>
      <p className="text-soft">
        {own
          ? 'Numbers hold for a student of later years; the first term and the first year are given more room.'
          : 'A school stays as it comes. Try numbers here, and keep what you like as a copy of your own.'}{' '}
        {mine.length > 0 ? `${mine.length} ${mine.length === 1 ? 'take is' : 'takes are'} judged by it.` : 'Nobody is judged by it yet; changes are tried on all takes.'}
      </p>
      <Changes changes={changes} changed={changed} />
      {groups.map(([title, names]) => (
        <section key={title} aria-label={title}>
          <h3 className="mt-5 mb-1 font-serif text-name font-bold">{title}</h3>
          <ul>
            {names.map((name) => (
              <BandRow
                key={name}
                name={name}
                band={draft.bands[name]!}
                before={kept.bands[name]}
                found={foundOn(name)}
                problem={problem?.band === name ? problem.words : undefined}
                records={records.filter((r) => FAULTS.find((f) => f.id === r.fault)?.band(kept.bands) === kept.bands[name])}
                onChange={(patch) => change(name, patch)}
              />
            ))}
          </ul>
        </section>
      ))}
      <SoundWords rubric={draft} onWord={(sound, word) => setDraft((d) => changeWord(d, sound, word))} />
      <RuleTable records={records} />
    </section>
  );
}

/** What a bow out of place sounds like, in the teacher's own words. */
function SoundWords({ rubric, onWord }: { rubric: Rubric; onWord: (sound: Sound, word: string) => void }) {
  const from: Readonly<Record<Sound, string>> = { airy: 'near the fingerboard', glassy: 'near the bridge' };
  return (
    <section aria-label="Words for sounds">
      <h3 className="mt-5 mb-1 font-serif text-name font-bold">Words for sounds</h3>
      <ul className="flex flex-wrap gap-x-8 gap-y-2 border-t border-rule py-2">
        {SOUNDS.map((sound) => (
          <li key={sound}>
            <label className="flex flex-col text-label text-soft">
              {from[sound]}
              <input
                className="h-8 w-48 rounded-card border border-soft bg-white px-2 text-body text-ink"
                placeholder={SOUND_WORDS[sound]}
                value={rubric.words?.[sound] ?? ''}
                onChange={(e) => onWord(sound, e.target.value)}
              />
            </label>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What the numbers tried would tell otherwise. */
function Changes({
  changes,
  changed,
}: {
  changes: readonly {
    readonly student: { readonly name: string };
    readonly take: { readonly id: string; readonly title: string };
    readonly gone: readonly { fault: string }[];
    readonly fresh: readonly { fault: string }[];
  }[];
  changed: boolean;
}) {
  if (!changed) return null;
  const short = (list: readonly { fault: string }[]) =>
    list
      .map((f) =>
        titleOf(f.fault)
          .replace(/^Along the whole bow, /, '')
          .replace(/\.$/, ''),
      )
      .join('; ');
  return (
    <div className="my-2 rounded-card border border-rule bg-sheet px-4 py-2" role="status">
      {changes.length === 0 ? (
        <p>No take would be judged otherwise.</p>
      ) : (
        <>
          <p className="font-semibold">
            {changes.length} {changes.length === 1 ? 'take' : 'takes'} would be judged otherwise:
          </p>
          <ul className="max-h-28 overflow-y-auto">
            {changes.map((c) => (
              <li key={c.take.id} className="truncate">
                <Link to={`/takes/${c.take.id}`} className="text-sea underline">
                  {c.student.name}, {c.take.title}
                </Link>
                {c.gone.length > 0 && <span> no longer: {short(c.gone)}.</span>}
                {c.fresh.length > 0 && <span> now: {short(c.fresh)}.</span>}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

const percent = (part: number, whole: number) => `${Math.round((100 * part) / whole)} %`;

/** How each rule fared under the teacher's word. */
function RuleTable({ records }: { records: readonly RuleRecord[] }) {
  if (records.length === 0) return <p className="mt-6 text-soft">Once findings are confirmed or set aside, each rule's record stands here.</p>;
  return (
    <section className="mt-6">
      <h3 className="font-serif text-name font-bold">How the rules fared</h3>
      <table className="mt-1 w-full text-left">
        <thead className="text-label text-soft">
          <tr>
            <th className="py-1 font-normal">Rule</th>
            <th className="font-normal">Your word on it</th>
            <th className="font-normal">Set aside</th>
            <th className="font-normal">measured wrongly</th>
            <th className="font-normal">good enough</th>
            <th className="font-normal">not for now</th>
          </tr>
        </thead>
        <tbody>
          {records.map((r) => (
            <tr key={r.fault} className="border-t border-rule">
              <td className="py-1">{titleOf(r.fault)}</td>
              <td>{r.judged}</td>
              <td>{percent(r.dismissed, r.judged)}</td>
              <td>{r.reasons['measured-wrongly'] || ''}</td>
              <td>{r.reasons['good-enough'] || ''}</td>
              <td>{r.reasons['not-now'] || ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
