/** Points asked for in Prepare, in order, with what to look for. */
export interface AskedPoint {
  readonly name: string;
  readonly title: string;
  readonly hint: string;
  /** Enough to begin without it. */
  readonly optional?: boolean;
}

export const ASKED: readonly AskedPoint[] = [
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

export const askedByName = new Map(ASKED.map((a) => [a.name, a]));
