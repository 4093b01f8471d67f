import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import type { FilmRecord } from '../../store/records';
import { starting } from '../bench/prepare/starting';
import { createFilmClient } from '../film/filmClient';
import { filmOfStill, isStill } from '../film/stillFilm';
import { useAddTake, useSaveStudent, useStudents } from '../queries';
import { StudentFields } from '../students/StudentFields';
import { isComplete, newStudent, recordOf, type StudentDraft } from '../students/studentDraft';
import { Button } from '../ui/Button';
import { FormDialog } from '../ui/FormDialog';
import { field } from '../ui/field';

interface Accepted {
  readonly file: File;
  readonly film: FilmRecord;
}

/** Takes films in: each is opened and tried before it is kept; what cannot be used is refused with the reason. */
export function DropField({ files, onFiles, onTaken, empty }: { files: readonly File[]; onFiles: (files: File[]) => void; onTaken: () => void; empty: boolean }) {
  const input = useRef<HTMLInputElement>(null);
  const [refused, setRefused] = useState<{ name: string; why: string }[]>([]);
  const [accepted, setAccepted] = useState<readonly Accepted[]>([]);
  const [looking, setLooking] = useState(false);

  useEffect(() => {
    if (files.length === 0) return;
    let gone = false;
    const look = async () => {
      setLooking(true);
      setRefused([]);
      for (const given of files) {
        const client = createFilmClient();
        try {
          const file = isStill(given) ? await filmOfStill(given) : given;
          const facts = await client.api.open(file);
          if (gone) return;
          const film: FilmRecord = { width: facts.width, height: facts.height, frames: facts.times.length, duration: facts.duration, hasSound: facts.hasSound };
          setAccepted((list) => [...list, { file, film }]);
        } catch (error) {
          if (!gone) setRefused((list) => [...list, { name: given.name, why: (error as Error).message }]);
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
          {looking ? 'Looking at the film…' : 'Drop clips anywhere, or '}
          {!looking && (
            <button type="button" className="font-semibold text-sea underline" onClick={() => input.current?.click()}>
              choose some
            </button>
          )}
        </p>
        <p className="mt-1 text-label text-soft">WebM, MP4 or MOV; a PNG or JPEG still tells of hold and stance. It stays on this computer.</p>
        <input
          ref={input}
          type="file"
          multiple
          accept="video/*,.mov,.mp4,.webm,image/png,image/jpeg"
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
      {!looking && accepted[0] && (
        <TakeForm
          key={accepted[0].file.name}
          accepted={accepted[0]}
          others={accepted.slice(1)}
          onClose={(all) => {
            const rest = all ? [] : accepted.slice(1);
            setAccepted(rest);
            if (rest.length === 0) onTaken();
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

const withoutEnding = (name: string): string => name.replace(/\.[^.]+$/, '');

/** Asks whose take it is; `onClose` is told whether the other films that came with it were kept or left too. */
function TakeForm({ accepted, others, onClose }: { accepted: Accepted; others: readonly Accepted[]; onClose: (all: boolean) => void }) {
  const students = useStudents();
  const saveStudent = useSaveStudent();
  const addTake = useAddTake();
  const navigate = useNavigate();
  const [studentId, setStudentId] = useState<string>();
  const chosen = studentId ?? students.data?.[0]?.id ?? 'new';
  const [draft, setDraft] = useState<StudentDraft>(newStudent);
  const [title, setTitle] = useState(withoutEnding(accepted.file.name));
  const [together, setTogether] = useState(true);
  const ready = chosen !== 'new' || isComplete(draft);
  // While the form is filled in the networks load: the first take is then looked at without a wait.
  useEffect(() => {
    starting.prepare();
    return () => starting.rest();
  }, []);

  const keep = async () => {
    let id = chosen;
    if (chosen === 'new') {
      id = crypto.randomUUID();
      await saveStudent.mutateAsync(recordOf(id, draft));
    }
    const kept = [accepted, ...(together ? others : [])];
    const ids: string[] = [];
    try {
      for (const { file, film } of kept) {
        const own = file === accepted.file && title.trim();
        const takeId = await addTake.mutateAsync({
          studentId: id,
          title: own || withoutEnding(file.name),
          filmedOn: new Date(file.lastModified || Date.now()).toISOString().slice(0, 10),
          film,
          blob: file,
        });
        ids.push(takeId);
        starting.enqueue(takeId, ids.length === 1 ? 'next' : 'last');
      }
      onClose(together);
      // One film is marked at once; of many the rest wait on the desk while they are looked at.
      if (others.length === 0) await navigate(`/takes/${ids[0]}/prepare`);
    } catch {
      toast('The film could not be kept: this browser has no room left. Delete old takes, then drop it again.');
    }
  };

  return (
    <FormDialog
      title="Whose take is this?"
      about={`${accepted.file.name}, ${accepted.film.width} × ${accepted.film.height}, ${accepted.film.duration.toFixed(1)} s${accepted.film.hasSound ? '' : ', no sound'}`}
      onClose={() => onClose(false)}
      onSubmit={() => ready && void keep()}
      actions={
        <>
          <Button onClick={() => onClose(false)}>Leave it out</Button>
          <Button kind="main" type="submit" disabled={!ready}>
            {others.length === 0 ? 'Keep and mark' : together ? `Keep all ${others.length + 1}` : 'Keep this one'}
          </Button>
        </>
      }
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
      {chosen === 'new' && <StudentFields draft={draft} onChange={setDraft} />}
      <label htmlFor="title">Task</label>
      <input id="title" className={field} value={title} onChange={(e) => setTitle(e.target.value)} />
      {others.length > 0 && (
        <label className="col-span-2 flex items-center gap-2">
          <input type="checkbox" className="h-4 w-4 accent-sea" checked={together} onChange={(e) => setTogether(e.target.checked)} />
          {others.length === 1 ? 'The other clip is' : `The other ${others.length} clips are`} of the same student
        </label>
      )}
    </FormDialog>
  );
}
