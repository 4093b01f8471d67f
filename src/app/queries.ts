import { useMutation, useQuery } from '@tanstack/react-query';
import type { Marks } from '../core/formats/marks';
import type { Rubric } from '../core/rubric/rubric';
import type { Task } from '../core/take/task';
import { database } from '../store/database';
import type { MeasuresRecord, PlanRecord, StudentRecord } from '../store/records';
import { listPlaces, saveVisit } from '../store/round';
import { deleteRubric, listRubrics, saveRubric } from '../store/rubrics';
import { listStudents, saveStudent } from '../store/students';
import {
  addTake,
  filmOf,
  findTake,
  judgedTakes,
  lastMarked,
  listTakes,
  measuredTakesOf,
  measuresOf,
  saveMarks,
  savePlan,
  saveSoundShift,
  saveTask,
  saveVerdict,
  saveZoom,
  takeBefore,
  verdictsOf,
} from '../store/takes';
import { queryClient } from './queryClient';

export const useTakes = () => useQuery({ queryKey: ['takes'], queryFn: () => listTakes(database) });
export const useStudents = () => useQuery({ queryKey: ['students'], queryFn: () => listStudents(database) });
export const useStudent = (id: string) => useQuery({ queryKey: ['students', id], queryFn: async () => (await database.students.get(id)) ?? null });
/** A student's measured takes, oldest first; read anew whenever something was measured. */
export const useStudentMeasures = (id: string) => useQuery({ queryKey: ['measures', 'student', id], queryFn: () => measuredTakesOf(database, id), gcTime: 0 });
/** The measured take before this one; read anew whenever something was measured. */
export const useTakeBefore = (id: string) => useQuery({ queryKey: ['measures', 'before', id], queryFn: () => takeBefore(database, id), gcTime: 0 });
/** Another take whose marks may hold here too; null where there is none. */
export const useLastMarked = (id: string) => useQuery({ queryKey: ['takes', 'marked', id], queryFn: async () => (await lastMarked(database, id)) ?? null });
export const useTake = (id: string) => useQuery({ queryKey: ['takes', id], queryFn: () => findTake(database, id) });
export const useFilmBlob = (id: string) => useQuery({ queryKey: ['film', id], queryFn: () => filmOf(database, id), gcTime: 0 });
/** What was measured in a take; read only while `wanted`, and not kept long: it is large. */
export const useMeasures = (id: string, wanted = true) =>
  useQuery({ queryKey: ['measures', id], queryFn: (): Promise<MeasuresRecord | null> => measuresOf(database, id), enabled: wanted, gcTime: 30_000 });
export const useVerdicts = (id: string) => useQuery({ queryKey: ['verdicts', id], queryFn: () => verdictsOf(database, id) });

export const usePlaces = () => useQuery({ queryKey: ['places'], queryFn: () => listPlaces(database) });
export const useSaveVisit = () =>
  useMutation({
    mutationFn: ({ place, day }: { place: string; day: string | undefined }) => saveVisit(database, place, day),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['places'] }),
  });
/** Ids of the takes that are measured. */
export const useMeasuredIds = () => useQuery({ queryKey: ['measures', 'ids'], queryFn: async () => new Set((await database.measures.toCollection().primaryKeys()) as string[]) });

/** Every rubric at its newest version. */
export const useRubrics = () => useQuery({ queryKey: ['rubrics'], queryFn: () => listRubrics(database) });

/** The newest measured takes of all students, to try a rubric on. */
export const useJudgedTakes = (most: number) => useQuery({ queryKey: ['measures', 'all', most], queryFn: () => judgedTakes(database, most), gcTime: 0 });

export const useSaveRubric = () =>
  useMutation({ mutationFn: (rubric: Rubric) => saveRubric(database, rubric), onSuccess: () => queryClient.invalidateQueries({ queryKey: ['rubrics'] }) });
export const useDeleteRubric = () =>
  useMutation({ mutationFn: (id: string) => deleteRubric(database, id), onSuccess: () => queryClient.invalidateQueries({ queryKey: ['rubrics'] }) });
export const useSaveStudent = () =>
  useMutation({
    mutationFn: (student: StudentRecord) => saveStudent(database, student),
    onSuccess: () => Promise.all([queryClient.invalidateQueries({ queryKey: ['students'] }), queryClient.invalidateQueries({ queryKey: ['takes'] })]),
  });

export const useSaveMarks = (id: string) =>
  useMutation({
    mutationFn: (marks: Marks | undefined) => saveMarks(database, id, marks),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['takes'] }),
  });

export const useSaveSoundShift = (id: string) =>
  useMutation({
    mutationFn: (shift: number | undefined) => saveSoundShift(database, id, shift),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['takes'] }),
  });

export const useSavePlan = (id: string) =>
  useMutation({
    mutationFn: (plan: PlanRecord) => savePlan(database, id, plan),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['takes'] }),
  });

export const useSaveTask = (id: string) =>
  useMutation({
    mutationFn: (task: Task) => saveTask(database, id, task),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['takes'] }),
  });

export const useSaveZoom = (id: string) =>
  useMutation({
    mutationFn: (zoom: number | undefined) => saveZoom(database, id, zoom),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['takes'] }),
  });

export const useSaveVerdict = (id: string) =>
  useMutation({
    mutationFn: ({ fault, ...change }: { fault: string } & Parameters<typeof saveVerdict>[3]) => saveVerdict(database, id, fault, change),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['verdicts', id] }),
  });

export const useAddTake = () =>
  useMutation({
    mutationFn: (input: Parameters<typeof addTake>[1]) => addTake(database, input),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['takes'] }),
  });
