import { Dialog } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { sizesOf } from '../../core/instrument/dimensions';
import { FAMILIES, type Family } from '../../core/instrument/family';
import { RUBRICS, STAGES, type Stage } from '../../core/rubric/rubric';
import { database } from '../../store/database';
import type { FilmRecord } from '../../store/records';
import { stageInWords } from '../drawings/words';
import { createFilmClient } from '../film/filmClient';
import { useAddTake, useStudents } from '../queries';
import { queryClient } from '../queryClient';
import { Button } from '../ui/Button';

interface Accepted {
  readonly file: File;
  readonly film: FilmRecord;
}

/** Takes films in: each is opened and tried before it is kept; what cannot be used is refused with the reason. */
export function DropField({ files, onFiles, onTaken, empty }: { files: readonly File[]; onFiles: (files: File[]) => void; onTaken: () => void; empty: boolean }) {
  const input = useRef<HTMLInputElement>(null);
  const [refused, setRefused] = useState<{ name: string; why: string }[]>([]);
  const [accepted, setAccepted] = useState<Accepted>();
  const [looking, setLooking] = useState(false);

  useEffect(() => {
    if (files.length === 0) return;
    let gone = false;
    const look = async () => {
      setLooking(true);
      setRefused([]);
      for (const file of files) {
        const client = createFilmClient();
        try {
          const facts = await client.api.open(file);
          if (gone) return;
          setAccepted({ file, film: { width: facts.width, height: facts.height, frames: facts.times.length, duration: facts.duration, hasSound: facts.hasSound } });
          break;
        } catch (error) {
          if (!gone) setRefused((list) => [...list, { name: file.name, why: (error as Error).message }]);
        } finally {
          client.close();
        }
      }
      setLooking(false);
    };
    void look();
    return () => {
      gone = true;
    };
  }, [files]);

  return (
    <>
      <div className={`mt-8 rounded-card border border-dashed border-soft px-6 py-5 text-center ${empty ? 'grid flex-1 place-content-center' : ''}`}>
        {empty && <EmptyDrawing />}
        <p>
          {looking ? 'Looking at the film…' : 'Drop a clip anywhere, or '}
          {!looking && (
            <button type="button" className="font-semibold text-sea underline" onClick={() => input.current?.click()}>
              choose one
            </button>
          )}
        </p>
        <p className="mt-1 text-label text-soft">WebM, MP4 or MOV. It stays on this computer.</p>
        <input
          ref={input}
          type="file"
          accept="video/*,.mov,.mp4,.webm"
          className="hidden"
          aria-label="Choose a clip"
          onChange={(event) => {
            onFiles([...(event.target.files ?? [])]);
            event.target.value = '';
          }}
        />
        {refused.map((r) => (
          <p key={r.name} role="alert" className="mt-3">
            <b className="font-semibold">{r.name} was not taken in.</b> {r.why}
          </p>
        ))}
      </div>
      {accepted && (
        <TakeForm
          accepted={accepted}
          onClose={() => {
            setAccepted(undefined);
            onTaken();
          }}
        />
      )}
    </>
  );
}

/** Empty desk: the way of the work as a drawing. */
function EmptyDrawing() {
  return (
    <svg width={420} height={96} viewBox="0 0 420 96" className="mx-auto mb-4" role="img" aria-label="A clip becomes bows, bows become a finding">
      <rect x={6} y={18} width={96} height={60} rx={5} fill="#14181A" />
      <path d="M28 66 L74 32 M50 40 L84 58" stroke="#FFFDF3" strokeWidth={2} fill="none" />
      <path d="M116 48 H146 M140 43 L147 48 L140 53" stroke="#4E5758" fill="none" />
      <path d="M160 76 C185 70 205 24 222 20 L222 76 Z M226 20 C246 24 262 70 286 76 L226 76 Z" fill="#F4E7C8" stroke="#1F2629" strokeWidth={1.6} />
      <path d="M300 48 H330 M324 43 L331 48 L324 53" stroke="#4E5758" fill="none" />
      <path d="M366 22 C371 36 384 44 384 57 A18 18 0 0 1 348 57 C348 44 361 36 366 22 Z" fill="none" stroke="#B0650A" strokeWidth={2.4} />
    </svg>
  );
}

const field = 'h-8 w-full rounded-card border border-soft bg-white px-2';

function TakeForm({ accepted, onClose }: { accepted: Accepted; onClose: () => void }) {
  const students = useStudents();
  const addTake = useAddTake();
  const navigate = useNavigate();
  const [studentId, setStudentId] = useState<string>();
  const chosen = studentId ?? students.data?.[0]?.id ?? 'new';
  const [name, setName] = useState('');
  const [family, setFamily] = useState<Family>('violin');
  const [size, setSize] = useState('4/4');
  const [stage, setStage] = useState<Stage>('first-year');
  const [rubric, setRubric] = useState(RUBRICS[0]!.id);
  const [title, setTitle] = useState(accepted.file.name.replace(/\.[^.]+$/, ''));
  const ready = chosen !== 'new' || name.trim().length > 0;

  const keep = async () => {
    let id = chosen;
    if (chosen === 'new') {
      id = crypto.randomUUID();
      await database.students.put({ id, name: name.trim(), family, size, stage, rubric, place: '' });
      await queryClient.invalidateQueries({ queryKey: ['students'] });
    }
    try {
      const takeId = await addTake.mutateAsync({
        studentId: id,
        title: title.trim() || accepted.file.name,
        filmedOn: new Date(accepted.file.lastModified || Date.now()).toISOString().slice(0, 10),
        film: accepted.film,
        blob: accepted.file,
      });
      onClose();
      await navigate(`/takes/${takeId}/prepare`);
    } catch {
      toast('The film could not be kept: this browser has no room left. Delete old takes, then drop it again.');
    }
  };

  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/40" />
        <Dialog.Content
          className="fixed top-1/2 left-1/2 w-[460px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 rounded-card border border-rule bg-sheet p-5"
          aria-describedby={undefined}
        >
          <Dialog.Title className="text-name">Whose take is this?</Dialog.Title>
          <p className="mt-1 mb-4 text-label text-soft">
            {accepted.file.name}, {accepted.film.width} × {accepted.film.height}, {accepted.film.duration.toFixed(1)} s{accepted.film.hasSound ? '' : ', no sound'}
          </p>
          <form
            className="grid grid-cols-[110px_1fr] items-center gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              if (ready) void keep();
            }}
          >
            <label htmlFor="student">Student</label>
            <select id="student" className={field} value={chosen} onChange={(e) => setStudentId(e.target.value)}>
              {students.data?.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}, {s.family} {s.size}
                </option>
              ))}
              <option value="new">Someone new</option>
            </select>
            {chosen === 'new' && (
              <>
                <label htmlFor="name">Name</label>
                <input id="name" className={field} value={name} onChange={(e) => setName(e.target.value)} />
                <label htmlFor="family">Instrument</label>
                <div className="flex gap-2">
                  <select
                    id="family"
                    className={field}
                    value={family}
                    onChange={(e) => {
                      const next = e.target.value as Family;
                      setFamily(next);
                      setSize(sizesOf(next)[0]!);
                    }}
                  >
                    {FAMILIES.map((f) => (
                      <option key={f}>{f}</option>
                    ))}
                  </select>
                  <select aria-label="Size" className={field} value={size} onChange={(e) => setSize(e.target.value)}>
                    {sizesOf(family).map((s) => (
                      <option key={s}>{s}</option>
                    ))}
                  </select>
                </div>
                <label htmlFor="stage">Stage</label>
                <select id="stage" className={field} value={stage} onChange={(e) => setStage(e.target.value as Stage)}>
                  {STAGES.map((s) => (
                    <option key={s} value={s}>
                      {stageInWords[s]}
                    </option>
                  ))}
                </select>
                <label htmlFor="rubric">Contact point</label>
                <select id="rubric" className={field} value={rubric} onChange={(e) => setRubric(e.target.value)}>
                  {RUBRICS.map((r) => (
                    <option key={r.id} value={r.id}>
                      {r.name}
                    </option>
                  ))}
                </select>
              </>
            )}
            <label htmlFor="title">Task</label>
            <input id="title" className={field} value={title} onChange={(e) => setTitle(e.target.value)} />
            <div className="col-span-2 mt-2 flex justify-end gap-2">
              <Button onClick={onClose}>Leave it out</Button>
              <Button kind="main" type="submit" disabled={!ready}>
                Keep and mark
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
