import { type Band, type LowerBand, type TwoSidedBand, type UpperBand, widened } from './band';

/** How long the student has played; bands are wider at the start. */
export const STAGES = ['first-term', 'first-year', 'later'] as const;
export type Stage = (typeof STAGES)[number];

/** Scales the half-width of a two-sided band and an upper edge, and divides a lower one (ours). */
export const STAGE_FACTOR: Record<Stage, number> = { 'first-term': 1.5, 'first-year': 1.2, later: 1 };

/** Sounds of a bow near the fingerboard and near the bridge, told beside what was seen; teachers do not share the words for them (common practice, no source). */
export const SOUNDS = ['airy', 'glassy'] as const;
export type Sound = (typeof SOUNDS)[number];

/** What the sounds are called where a teacher has no other word. */
export const SOUND_WORDS: Readonly<Record<Sound, string>> = { airy: 'airy', glassy: 'glassy' };

/** A school: what is asked of the student. Numbers in the quantity's own unit, before the stage widens them. */
export interface Rubric {
  readonly id: string;
  readonly name: string;
  readonly version: number;
  readonly bands: Bands;
  /** The teacher's own words for sounds, where they differ from the usual ones. */
  readonly words?: Readonly<Partial<Record<Sound, string>>>;
}

export interface Bands {
  /** Degrees either side of parallel to the bridge. */
  readonly skew: TwoSidedBand;
  /** Share of the strip from bridge to fingerboard end. */
  readonly contactFraction: TwoSidedBand;
  /** Range of the contact fraction within a stroke. */
  readonly contactRange: UpperBand;
  /** Scroll up or down, degrees; violin and viola. */
  readonly pitch: TwoSidedBand;
  /** The instrument's way from straight ahead to the left, degrees; violin and viola. */
  readonly heading: TwoSidedBand;
  /** High-string side lower, degrees; violin and viola. */
  readonly roll: TwoSidedBand;
  /** How far the instrument swings in one stroke, degrees. */
  readonly swing: UpperBand;
  /** Degrees of skew over a whole bow. */
  readonly arc: TwoSidedBand;
  /** Part of the hand's way in the upper half that the elbow's opening makes. */
  readonly forearmShare: LowerBand;
  /** Elbow behind the back line, shoulder widths. */
  readonly elbowBehind: UpperBand;
  /** End joint of the thumb, middle joint of the little finger, degrees. */
  readonly thumbBend: LowerBand;
  readonly littleBend: LowerBand;
  /** Little fingertip off the stick, finger widths. */
  readonly littleToStick: UpperBand;
  /** Where the stick crosses the middle finger near the frog: 0 at its end joint, + deeper, - nearer the tip. */
  readonly fingerDepth: TwoSidedBand;
  /** Between the tips of index and middle finger, finger widths. */
  readonly fingerGap: TwoSidedBand;
  /** Hole between thumb and fingers, squares of the palm's width. */
  readonly handOpening: LowerBand;
  /** How much the fingers' bends change over a whole bow, degrees. */
  readonly handMobility: LowerBand;
  /** Wrist up or down in the middle of the bow, degrees. */
  readonly wristFlexion: TwoSidedBand;
  /** Wrist to either side there, degrees: + to the little finger. */
  readonly wristDeviation: TwoSidedBand;
  /** Trunk to either side, degrees. */
  readonly trunkLean: TwoSidedBand;
  /** Shoulders toward the ears, shoulder widths. */
  readonly shoulderLift: UpperBand;
  /** Head sideways onto the instrument, and turned to the scroll, degrees; violin and viola. */
  readonly headTilt: TwoSidedBand;
  readonly headTurn: TwoSidedBand;
  /** Left elbow out from the trunk's side, shoulder widths. */
  readonly leftElbowGap: LowerBand;
  /** Left wrist against the forearm, degrees: 0 straight, - bent back. */
  readonly leftWrist: TwoSidedBand;
  /** Small of the back before the line from shoulder blades to seat, share of it. */
  readonly lumbarArch: UpperBand;
  /** Ankles apart, shoulder widths. */
  readonly stanceWidth: TwoSidedBand;
  /** Knees of a seated player, degrees. */
  readonly knee: TwoSidedBand;
  /** A cello's long axis from upright, degrees. */
  readonly celloLean: TwoSidedBand;
  /** A cello's lowest peg from the left ear, mm. */
  readonly pegEar: UpperBand;
  /** Ankles of a cellist apart, shoulder widths. */
  readonly seatWidth: TwoSidedBand;
  /** Elbow in the middle of the bow, degrees. */
  readonly elbowAtMiddle: TwoSidedBand;
  /** How far the bow's level wanders toward a neighbour at frog or tip, degrees from the middle of the bow. */
  readonly levelKept: UpperBand;
  /** Share of the bows between which the bow stands still. */
  readonly stopShare: UpperBand;
  /** Share of the long bows that end squeezed against frog or tip. */
  readonly runOutShare: UpperBand;
  /** Share of the bows in which the speed collapses on the way. */
  readonly collapseShare: UpperBand;
  /** Share of the stray bows after which the next one does not start back in place. */
  readonly lostShare: UpperBand;
  /** How much later (+) or earlier the arm changes level than the bow, milliseconds. */
  readonly crossingLag: TwoSidedBand;
  /** Share of the bow's change of level that the upper arm makes too. */
  readonly levelShare: TwoSidedBand;
  /** How far the contact point jumps at a bow change, share of the strip. */
  readonly contactJump: UpperBand;
  /** Spread over mean of the shares of bow that notes of one length take. */
  readonly sharesEvenness: UpperBand;
  /** Share of the bow that long notes use. */
  readonly bowShare: TwoSidedBand;
  /** Share of the strokes in which a neighbouring string sounds too. */
  readonly strayShare: UpperBand;
  /** Share of the bows that sound out of the ordinary and are seen to be so. */
  readonly toneShare: UpperBand;
  /** Share of the bows that begin with a crunch. */
  readonly noisyStartShare: UpperBand;
  /** Upper arm against the bow, degrees; only where the school asks for a parallel arm. */
  readonly armBowGap?: TwoSidedBand;
  /** Elbow against the wrist near the middle of the bow, degrees; only where the school asks for it. */
  readonly elbowRise?: TwoSidedBand;
}

/** Defaults (ours, editable): contact in the middle of the strip. */
export const MIDDLE_OF_STRIP: Rubric = {
  id: 'middle-of-strip',
  name: 'Middle of the strip',
  version: 1,
  bands: {
    skew: { middle: 0, good: 5, fault: 10 },
    contactFraction: { middle: 0.5, good: 0.15, fault: 0.15 },
    contactRange: { good: 0.15, fault: 0.25 },
    pitch: { middle: 0, good: 10, fault: 10 },
    heading: { middle: 45, good: 15, fault: 15 },
    roll: { middle: 27.5, good: 17.5, fault: 17.5 },
    swing: { good: 4, fault: 6, allStages: true },
    elbowBehind: { good: 0.05, fault: 0.05 },
    arc: { middle: 0, good: 8, fault: 15 },
    forearmShare: { least: 0.6, fault: 0.6, most: 1.5 },
    littleToStick: { good: 1.3, fault: 1.6 },
    fingerDepth: { middle: -0.2, good: 0.45, fault: 0.55 },
    fingerGap: { middle: 1.85, good: 0.4, fault: 0.45 },
    handOpening: { least: 1.5, fault: 1.45, most: 2.5 },
    handMobility: { least: 8, fault: 4, most: 40 },
    wristFlexion: { middle: 0, good: 20, fault: 20 },
    wristDeviation: { middle: 0, good: 20, fault: 20 },
    trunkLean: { middle: 0, good: 5, fault: 7 },
    shoulderLift: { good: 0.1, fault: 0.13 },
    headTilt: { middle: 5, good: 9, fault: 10 },
    headTurn: { middle: 25, good: 18, fault: 20 },
    leftElbowGap: { least: 0.2, fault: 0.15, most: 0.8 },
    leftWrist: { middle: -10, good: 25, fault: 32 },
    lumbarArch: { good: 0.11, fault: 0.14 },
    stanceWidth: { middle: 0.8, good: 0.35, fault: 0.4 },
    knee: { middle: 90, good: 10, fault: 10 },
    celloLean: { middle: 30, good: 15, fault: 15 },
    pegEar: { good: 140, fault: 190 },
    seatWidth: { middle: 1.4, good: 0.5, fault: 0.6 },
    elbowAtMiddle: { middle: 90, good: 15, fault: 15 },
    levelKept: { good: 1.5, fault: 2.5 },
    stopShare: { good: 0.3, fault: 0.6 },
    runOutShare: { good: 0.2, fault: 0.4 },
    collapseShare: { good: 0.2, fault: 0.4 },
    lostShare: { good: 0.4, fault: 0.6 },
    thumbBend: { least: 10, fault: 10, most: 90 },
    littleBend: { least: 15, fault: 15, most: 110 },
    crossingLag: { middle: 0, good: 50, fault: 80 },
    levelShare: { middle: 1, good: 0.3, fault: 0.4 },
    strayShare: { good: 0.15, fault: 0.3 },
    toneShare: { good: 0.2, fault: 0.3 },
    noisyStartShare: { good: 0.2, fault: 0.4 },
    contactJump: { good: 0.12, fault: 0.2 },
    sharesEvenness: { good: 0.15, fault: 0.25 },
    bowShare: { middle: 1, good: 0.5, fault: 0.65 },
  },
};

/** Gentler for beginners: from the middle to slightly on the fingerboard's side (common practice, no source). */
export const FINGERBOARD_SIDE: Rubric = {
  ...MIDDLE_OF_STRIP,
  id: 'fingerboard-side',
  name: 'Middle to fingerboard side',
  bands: { ...MIDDLE_OF_STRIP.bands, contactFraction: { middle: 0.6, good: 0.2, fault: 0.2 } },
};

/** The schools of the elbow's level: the upper arm runs with the bow, the elbow is level with the wrist, or the arm stays low and is not judged by level. */
export const PARALLEL_ARM: Rubric = {
  ...MIDDLE_OF_STRIP,
  id: 'parallel-arm',
  name: 'Upper arm parallel to the bow',
  bands: { ...MIDDLE_OF_STRIP.bands, armBowGap: { middle: 0, good: 15, fault: 15 } },
};
export const LEVEL_WRIST: Rubric = {
  ...MIDDLE_OF_STRIP,
  id: 'level-wrist',
  name: 'Elbow level with the wrist',
  bands: { ...MIDDLE_OF_STRIP.bands, elbowRise: { middle: 0, good: 15, fault: 15 } },
};
export const LOW_ARM: Rubric = { ...MIDDLE_OF_STRIP, id: 'low-arm', name: 'Low arm' };

export const RUBRICS: readonly Rubric[] = [MIDDLE_OF_STRIP, FINGERBOARD_SIDE, PARALLEL_ARM, LEVEL_WRIST, LOW_ARM];
export const rubricById = (id: string): Rubric | undefined => RUBRICS.find((r) => r.id === id);

/** A rubric kept before some band was known, with that band as it usually is. */
export const completed = (rubric: Rubric): Rubric => ({ ...rubric, bands: { ...MIDDLE_OF_STRIP.bands, ...rubric.bands } });

/** What a sound is called by this rubric. */
export const wordFor = ({ words }: Pick<Rubric, 'words'>, sound: Sound): string => words?.[sound] ?? SOUND_WORDS[sound];

/** The rubric's bands as they apply to a stage. */
export function bandsFor(rubric: Rubric, stage: Stage): Bands {
  const k = STAGE_FACTOR[stage];
  return Object.fromEntries(Object.entries(completed(rubric).bands).map(([name, band]) => [name, widened(band as Band, k)])) as unknown as Bands;
}
