import { useState } from 'react';
import { toast } from 'sonner';
import type { StudentRecord } from '../../store/records';
import { useSaveStudent } from '../queries';
import { Button } from '../ui/Button';
import { FormDialog } from '../ui/FormDialog';
import { StudentFields } from './StudentFields';
import { isComplete, recordOf, type StudentDraft } from './studentDraft';

/** What is known of a student, to be changed. Takes are judged anew by it, and keep the instrument they were marked with. */
export function StudentDialog({ student: { id, ...known }, onClose }: { student: StudentRecord; onClose: () => void }) {
  const save = useSaveStudent();
  const [draft, setDraft] = useState<StudentDraft>(known);
  return (
    <FormDialog
      title={`About ${known.name}`}
      onClose={onClose}
      onSubmit={() => {
        if (!isComplete(draft)) return;
        save.mutate(recordOf(id, draft));
        toast(`${draft.name.trim()} is judged by this from now on.`, { action: { label: 'Undo', onClick: () => save.mutate({ id, ...known }) } });
        onClose();
      }}
      actions={
        <>
          <Button onClick={onClose}>Leave it</Button>
          <Button kind="main" type="submit" disabled={!isComplete(draft)}>
            Keep
          </Button>
        </>
      }
    >
      <StudentFields draft={draft} onChange={setDraft} />
    </FormDialog>
  );
}
