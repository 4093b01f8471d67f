/** Errors meant for the teacher keep their message; anything else is told as our own failure, with what to do. */
const SPOKEN = new Set(['FilmError', 'MarksError', 'MarksFileError']);

export const CANCELLED = 'cancelled';

export function plainError(error: unknown, signal?: AbortSignal): Error {
  if (signal?.aborted) return new Error(CANCELLED);
  if (error instanceof Error && SPOKEN.has(error.name)) return new Error(error.message);
  const detail = error instanceof Error ? error.message : String(error);
  return new Error(`This take could not be measured (${detail}). Nothing was lost; try again, or mark another frame.`);
}
