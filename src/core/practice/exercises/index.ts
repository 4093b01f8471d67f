import { z } from 'zod';
import { type Exercise, exerciseSchema } from '../exercise';
import { ARM } from './arm';
import { HOLD } from './hold';
import { LEVELS } from './levels';
import { STANCE } from './stance';

/** The library, read once and refused where an entry is not complete. @throws ZodError naming what is missing. */
export const EXERCISES: readonly Exercise[] = z.array(exerciseSchema).parse([...STANCE, ...HOLD, ...ARM, ...LEVELS]);

export const exerciseByName = (name: string): Exercise | undefined => EXERCISES.find((e) => e.name === name);
