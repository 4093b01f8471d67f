import { z } from 'zod';
import { FAMILIES } from '../instrument/family';
import { QUANTITIES } from '../measures/measures';

const text = z.string().min(8);

/** Numbers of a whole take that can say an exercise is passed, beside the frame quantities. */
const TAKE_QUANTITIES = ['contact_range', 'arc_index', 'instrument_swing_deg', 'elbow_lag_ms', 'arm_level_share', 'stray_share', 'shares_evenness'] as const;

/** One exercise of the library, complete: what an entry lacks is refused when the library is read. */
export const exerciseSchema = z.strictObject({
  /** Its name, as shown and as the catalogue of faults refers to it. */
  name: z.string().min(4),
  /** What it is for, one sentence. */
  goal: text,
  /** What the student does, in order. */
  steps: z.array(text).min(2),
  /** Minutes a day, and how often within them. */
  dose: z.strictObject({ minutes: z.number().positive().max(10), repetitions: text }),
  families: z.array(z.enum(FAMILIES)).min(1),
  /** Names of exercises that should be secure before. */
  after: z.array(z.string()),
  /** Joints that carry the work. */
  joints: z.array(z.enum(['thumb', 'fingers', 'wrist', 'elbow', 'shoulder', 'neck', 'back', 'hips', 'knees'])).min(1),
  /** What it looks like when it goes well. */
  good: text,
  /** The number that tells it is passed, and where it should lie; absent where only eyes and ears tell. */
  passed: z.strictObject({ quantity: z.enum([...QUANTITIES, ...TAKE_QUANTITIES]), says: text }).optional(),
  /** What to film, and from where. */
  film: text,
  cautions: z.array(text).min(1),
  /** Needs another person or a thing the family may not have. */
  needs: z.string().optional(),
});

export type Exercise = z.infer<typeof exerciseSchema>;

export const ALL_FAMILIES = [...FAMILIES];
export const HELD_UP = ['violin', 'viola'] as const;
