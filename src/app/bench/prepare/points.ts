/** Points asked for in Prepare, in order, with what to look for. */
export interface AskedPoint {
  readonly name: string;
  readonly title: string;
  readonly hint: string;
  /** Enough to begin without it. */
  readonly optional?: boolean;
}

/** What is marked: instrument and bow always, the bow hand and the body only where the networks are not to be trusted. */
export type PointGroup = 'instrument' | 'hand' | 'body';

export interface GroupOfPoints {
  readonly name: string;
  /** What placing them gains. */
  readonly gains: string;
  readonly points: readonly AskedPoint[];
}

const INSTRUMENT: readonly AskedPoint[] = [
  { name: 'instrument.fingerboardEnd.low', title: "Fingerboard's end, low side", hint: 'The corner of the black board over the body, on the side of the thickest string.' },
  { name: 'instrument.fingerboardEnd.high', title: "Fingerboard's end, high side", hint: 'The other corner of the board over the body, by the thinnest string.' },
  { name: 'instrument.nut.low', title: 'Nut, low side', hint: 'Where the board meets the pegbox: the end of the small ridge on the side of the thickest string.' },
  { name: 'instrument.nut.high', title: 'Nut, high side', hint: 'The other end of the ridge, by the thinnest string.' },
  { name: 'instrument.bridge.low', title: 'Bridge, lowest string', hint: 'Where the thickest string lies on top of the bridge.' },
  { name: 'instrument.bridge.high', title: 'Bridge, highest string', hint: 'Where the thinnest string lies on top of the bridge.' },
  { name: 'bow.frog', title: 'Hair at the frog', hint: 'Where the hair leaves the frog. If the hand hides it, place it by guess and say so.' },
  { name: 'bow.tip', title: 'Hair at the tip', hint: "Where the hair enters the bow's head." },
  {
    name: 'instrument.upperCorner.low',
    title: 'Upper corner, low side',
    hint: 'The sharp tip where waist and upper half meet, on the side of the thickest string.',
    optional: true,
  },
  {
    name: 'instrument.upperCorner.high',
    title: 'Upper corner, high side',
    hint: 'The sharp tip where waist and upper half meet, on the side of the thinnest string.',
    optional: true,
  },
  {
    name: 'instrument.lowerCorner.low',
    title: 'Lower corner, low side',
    hint: 'The sharp tip where waist and lower half meet, on the side of the thickest string.',
    optional: true,
  },
  {
    name: 'instrument.lowerCorner.high',
    title: 'Lower corner, high side',
    hint: 'The sharp tip where waist and lower half meet, on the side of the thinnest string.',
    optional: true,
  },
  { name: 'instrument.scroll', title: 'Scroll', hint: 'The foremost point of the scroll.', optional: true },
  { name: 'instrument.bridgeFoot.low', title: "Bridge's foot, low side", hint: 'The outer end of the foot under the thickest string.', optional: true },
  { name: 'instrument.bridgeFoot.high', title: "Bridge's foot, high side", hint: 'The outer end of the foot under the thinnest string.', optional: true },
  { name: 'instrument.tailpieceEnd', title: "Tailpiece's end", hint: 'Its lower end above the end button, in the middle.', optional: true },
];

const joint = (finger: string, part: string) => ({ title: `${finger}, ${part}`, hint: `${part === 'tip' ? 'The very end' : `The ${part}, in the middle of its thickness`}.` });

const HAND: readonly AskedPoint[] = [
  { name: 'hand.bow.2', ...joint('Thumb', 'knuckle') },
  { name: 'hand.bow.3', ...joint('Thumb', 'end joint') },
  { name: 'hand.bow.4', ...joint('Thumb', 'tip') },
  { name: 'hand.bow.18', ...joint('Little finger', 'middle joint') },
  { name: 'hand.bow.19', ...joint('Little finger', 'end joint') },
  { name: 'hand.bow.20', ...joint('Little finger', 'tip') },
  { name: 'hand.bow.17', ...joint('Little finger', 'knuckle'), optional: true },
  { name: 'hand.bow.10', ...joint('Middle finger', 'middle joint'), optional: true },
  { name: 'hand.bow.11', ...joint('Middle finger', 'end joint'), optional: true },
  { name: 'hand.bow.12', ...joint('Middle finger', 'tip'), optional: true },
  { name: 'hand.bow.6', ...joint('Index finger', 'middle joint'), optional: true },
  { name: 'hand.bow.7', ...joint('Index finger', 'end joint'), optional: true },
  { name: 'hand.bow.8', ...joint('Index finger', 'tip'), optional: true },
  { name: 'hand.bow.0', title: 'Wrist', hint: 'The middle of the wrist, where hand and forearm meet.', optional: true },
];

const BODY: readonly AskedPoint[] = [
  { name: 'body.shoulder.right', title: 'Shoulder of the bow arm', hint: 'The middle of the joint, under the seam of the sleeve.' },
  { name: 'body.elbow.right', title: 'Elbow of the bow arm', hint: 'The middle of the joint.' },
  { name: 'body.wrist.right', title: 'Wrist of the bow arm', hint: 'Where hand and forearm meet.' },
  { name: 'body.elbow.left', title: 'Left elbow', hint: 'The middle of the joint, also where the instrument hides it.' },
  { name: 'body.shoulder.left', title: 'Left shoulder', hint: 'The middle of the joint.', optional: true },
  { name: 'body.hip.right', title: 'Right hip', hint: 'The middle of the joint, a hand’s width in from the side.', optional: true },
  { name: 'body.hip.left', title: 'Left hip', hint: 'The middle of the joint, a hand’s width in from the side.', optional: true },
  { name: 'body.knee.right', title: 'Right knee', hint: 'The middle of the knee.', optional: true },
  { name: 'body.knee.left', title: 'Left knee', hint: 'The middle of the knee.', optional: true },
  { name: 'body.ankle.right', title: 'Right ankle', hint: 'The middle of the joint over the shoe.', optional: true },
  { name: 'body.ankle.left', title: 'Left ankle', hint: 'The middle of the joint over the shoe.', optional: true },
  { name: 'hand.left.0', title: 'Left wrist', hint: 'The middle of the wrist, where hand and forearm meet.', optional: true },
  { name: 'hand.left.9', title: 'Left middle knuckle', hint: 'Where the middle finger leaves the hand.', optional: true },
  { name: 'body.back.upper', title: 'Back, between the shoulder blades', hint: 'From the side only: on the outline, where it is roundest.', optional: true },
  { name: 'body.back.small', title: 'Small of the back', hint: 'From the side only: on the outline, where it is deepest.', optional: true },
  { name: 'body.back.seat', title: 'Seat', hint: 'From the side only: on the outline, where it is roundest.', optional: true },
];

export const GROUPS: Readonly<Record<PointGroup, GroupOfPoints>> = {
  instrument: { name: 'Instrument', gains: 'Instrument and bow: all that is measured rests on them.', points: INSTRUMENT },
  hand: {
    name: 'Bow hand',
    gains:
      'Six points in one clear frame tell whether the thumb is round, and make the little finger surer. The middle and index finger tell their depth and spacing. A second frame, far along the bow, tells whether the hand gives.',
    points: HAND,
  },
  body: {
    name: 'Body',
    gains:
      'Two frames, near frog and near tip, make the bow arm surer. Both shoulders show whether they are raised, the left elbow whether that arm hangs free, wrist and knuckle whether the wrist is straight. From the side, three points tell of a hollow back, and the knees of a cellist’s seat; a plumb line helps where the room has no upright edges.',
    points: BODY,
  },
};

/** Instrument and bow, in the order they are asked for. */
export const ASKED = INSTRUMENT;

export const askedByName = new Map(Object.values(GROUPS).flatMap((g) => g.points.map((a) => [a.name, a] as const)));
export const groupOf = (name: string): PointGroup => (name.startsWith('hand.bow.') ? 'hand' : name.startsWith('body.') || name.startsWith('hand.left.') ? 'body' : 'instrument');

/** Points that are drawn joined while marking. */
export const CHAINS: readonly (readonly string[])[] = [
  ['hand.bow.0', 'hand.bow.2', 'hand.bow.3', 'hand.bow.4'],
  ['hand.bow.6', 'hand.bow.7', 'hand.bow.8'],
  ['hand.bow.10', 'hand.bow.11', 'hand.bow.12'],
  ['hand.bow.17', 'hand.bow.18', 'hand.bow.19', 'hand.bow.20'],
  ['body.shoulder.right', 'body.elbow.right', 'body.wrist.right'],
  ['body.shoulder.left', 'body.elbow.left', 'hand.left.0', 'hand.left.9'],
  ['body.back.upper', 'body.back.small', 'body.back.seat'],
  ['body.hip.right', 'body.knee.right', 'body.ankle.right'],
  ['body.hip.left', 'body.knee.left', 'body.ankle.left'],
];
