import type { Bands } from './rubric';

export type BandName = keyof Bands;

/** What a band is about, for the one who edits it: its name, unit, the widest span drawn, and steps of its numbers. */
export interface BandFacts {
  readonly name: string;
  readonly what: string;
  readonly unit: 'deg' | 'share' | 'shoulders' | 'fingers' | 'plain' | 'ms' | 'mm';
  readonly range: readonly [number, number];
  readonly step: number;
}

/** In the order of the work. */
export const BAND_FACTS: Readonly<Record<BandName, BandFacts>> = {
  stanceWidth: { name: 'Feet', what: 'Between the ankles, in widths of the shoulders', unit: 'shoulders', range: [0, 1.8], step: 0.05 },
  knee: { name: 'Knees of a cellist', what: 'Square when the seat fits', unit: 'deg', range: [50, 140], step: 1 },
  celloLean: { name: 'Cello leans back', what: 'Its long axis from upright', unit: 'deg', range: [-10, 70], step: 1 },
  pegEar: { name: 'Peg beside the ear', what: 'The lowest peg from the left ear', unit: 'mm', range: [0, 400], step: 10 },
  seatWidth: { name: 'Feet of a cellist', what: 'Between the ankles, in widths of the shoulders', unit: 'shoulders', range: [0.4, 2.6], step: 0.05 },
  trunkLean: { name: 'Trunk', what: 'To either side of upright', unit: 'deg', range: [-20, 20], step: 0.5 },
  shoulderLift: { name: 'Shoulders', what: 'Drawn up to the ears, shoulder widths', unit: 'shoulders', range: [0, 0.5], step: 0.01 },
  headTilt: { name: 'Head laid down', what: 'To the side, onto the instrument', unit: 'deg', range: [-20, 40], step: 1 },
  headTurn: { name: 'Head turned', what: 'From the chest toward the scroll', unit: 'deg', range: [-10, 80], step: 1 },
  leftElbowGap: { name: 'Left elbow', what: 'Out from the ribs, shoulder widths', unit: 'shoulders', range: [0, 0.8], step: 0.01 },
  leftWrist: { name: 'Left wrist', what: 'Against the forearm, - bent back to the neck', unit: 'deg', range: [-80, 40], step: 1 },
  lumbarArch: { name: 'Small of the back', what: 'How deep, share of the back from blades to seat', unit: 'share', range: [0, 0.3], step: 0.01 },
  pitch: { name: 'Scroll up or down', what: 'Instrument against the horizon, + scroll up', unit: 'deg', range: [-30, 30], step: 1 },
  heading: { name: 'Instrument to the left', what: 'From straight ahead toward the left shoulder', unit: 'deg', range: [0, 90], step: 1 },
  roll: { name: 'Tilt of the instrument', what: 'High-string side lower', unit: 'deg', range: [-10, 65], step: 0.5 },
  swing: { name: 'Instrument swings', what: 'Way of its heading within one stroke', unit: 'deg', range: [0, 15], step: 0.5 },
  thumbBend: { name: 'Thumb, end joint', what: 'Bent outward, + bent', unit: 'deg', range: [-20, 90], step: 1 },
  littleBend: { name: 'Little finger, middle joint', what: '+ bent', unit: 'deg', range: [-10, 120], step: 1 },
  littleToStick: { name: 'Little finger on the stick', what: 'Fingertip to stick, finger widths', unit: 'fingers', range: [0, 3], step: 0.1 },
  fingerDepth: { name: 'Depth of the fingers', what: 'Stick on the middle finger near the frog, 0 = its end joint', unit: 'plain', range: [-1.2, 1.2], step: 0.05 },
  fingerGap: { name: 'Spacing of the fingers', what: 'Tips of index and middle near the frog, finger widths', unit: 'fingers', range: [0.5, 3.5], step: 0.05 },
  handOpening: { name: 'Hole in the hand', what: 'Between thumb and fingers', unit: 'plain', range: [0, 3], step: 0.05 },
  handMobility: { name: 'Fingers give', what: 'Change of their bends over a whole bow', unit: 'deg', range: [0, 40], step: 1 },
  wristFlexion: { name: 'Wrist', what: 'Up or down in the middle of the bow', unit: 'deg', range: [-60, 60], step: 1 },
  wristDeviation: { name: 'Wrist to the side', what: 'In the middle of the bow, + to the little finger', unit: 'deg', range: [-60, 60], step: 1 },
  skew: { name: 'Bow angle', what: 'From parallel to the bridge, + tip to the scroll', unit: 'deg', range: [-20, 20], step: 0.5 },
  arc: { name: 'Bow curves', what: 'Degrees of bow angle over a whole bow', unit: 'deg', range: [-30, 30], step: 1 },
  forearmShare: { name: 'Elbow opens', what: "Its part of the hand's way in the upper half", unit: 'share', range: [0, 1.5], step: 0.05 },
  elbowBehind: { name: 'Elbow behind the back', what: 'Behind the line of the back, shoulder widths', unit: 'shoulders', range: [0, 0.4], step: 0.01 },
  armBowGap: { name: 'Upper arm and bow', what: 'Upper arm against the level of the bow', unit: 'deg', range: [-45, 45], step: 1 },
  elbowRise: { name: 'Elbow and wrist', what: 'Elbow over the wrist near the middle of the bow', unit: 'deg', range: [-45, 45], step: 1 },
  elbowAtMiddle: { name: 'Elbow at mid-bow', what: 'Square in the middle of the bow', unit: 'deg', range: [45, 150], step: 1 },
  contactFraction: { name: 'Contact point', what: 'From bridge (0) to fingerboard (1)', unit: 'share', range: [0, 1], step: 0.01 },
  contactRange: { name: 'Contact wanders', what: 'Way of the contact within one stroke', unit: 'share', range: [0, 0.6], step: 0.01 },
  contactJump: { name: 'Contact jumps', what: 'At a change of bow', unit: 'share', range: [0, 0.5], step: 0.01 },
  levelKept: { name: 'Level along the bow', what: 'Near frog or tip against the middle', unit: 'deg', range: [0, 10], step: 0.5 },
  levelShare: { name: 'Arm at crossings', what: "Share of the bow's change of level that the arm makes", unit: 'share', range: [0, 2], step: 0.05 },
  crossingLag: { name: 'Arm late or early', what: 'Against the bow at crossings, + late', unit: 'ms', range: [-250, 250], step: 5 },
  strayShare: { name: 'Neighbouring strings', what: 'Share of the strokes that touch one', unit: 'share', range: [0, 0.6], step: 0.01 },
  sharesEvenness: { name: 'Shares of bow', what: 'Spread over mean for notes of one length', unit: 'share', range: [0, 0.6], step: 0.01 },
  bowShare: { name: 'Length of long bows', what: 'Share of the hair used', unit: 'share', range: [0, 1.8], step: 0.05 },
  runOutShare: { name: 'Running out of bow', what: 'Share of the long bows that end squeezed', unit: 'share', range: [0, 1], step: 0.05 },
  collapseShare: { name: 'Speed lost', what: 'Share of the long bows that stall on the way', unit: 'share', range: [0, 1], step: 0.05 },
  stopShare: { name: 'Standing bow', what: 'Share of the bow changes with a stop', unit: 'share', range: [0, 1], step: 0.05 },
  noisyStartShare: { name: 'Crunching starts', what: 'Share of the bows that begin with noise', unit: 'share', range: [0, 1], step: 0.05 },
  toneShare: { name: 'Tone', what: 'Share of the bows that sound airy, glassy, scratchy or of two strings, and are seen to', unit: 'share', range: [0, 1], step: 0.05 },
  lostShare: { name: 'Recovery', what: 'Share of stray bows not made good by the next', unit: 'share', range: [0, 1], step: 0.05 },
};

/** The bands in groups, in the order of the work. */
export const BAND_GROUPS: readonly (readonly [title: string, bands: readonly BandName[]])[] = [
  ['Stance and seat', ['stanceWidth', 'knee', 'seatWidth', 'celloLean', 'pegEar', 'trunkLean', 'shoulderLift', 'headTilt', 'headTurn', 'leftElbowGap', 'leftWrist', 'lumbarArch']],
  ['Instrument', ['pitch', 'heading', 'roll', 'swing']],
  ['Bow hold', ['thumbBend', 'littleBend', 'littleToStick', 'fingerDepth', 'fingerGap', 'handOpening', 'handMobility', 'wristFlexion', 'wristDeviation']],
  ['Bow path and arm', ['skew', 'arc', 'forearmShare', 'elbowBehind', 'elbowAtMiddle', 'armBowGap', 'elbowRise']],
  ['Contact', ['contactFraction', 'contactRange', 'contactJump', 'lostShare']],
  ['Levels and crossings', ['levelKept', 'levelShare', 'crossingLag', 'strayShare', 'toneShare']],
  ['Strokes', ['sharesEvenness', 'bowShare', 'runOutShare', 'collapseShare', 'stopShare', 'noisyStartShare']],
];
