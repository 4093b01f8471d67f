/** What a fault is called on the sheet for the family: what to do, not what is wrong, in words a child reads. */
export interface FamilyWords {
  /** Heads the sheet when this is its first focus. */
  readonly title: string;
  /** Heads the focus. */
  readonly aim: string;
  readonly says: string;
}

const WORDS: Record<string, FamilyWords> = {
  'feet-not-set': { title: 'Feet that stand well', aim: 'Set the feet', says: 'Hip to shoulder wide, weight on both, knees soft. First the feet, then the instrument.' },
  'cello-seat-height': { title: 'A seat that fits', aim: 'Square knees', says: 'Feet flat on the floor, knees square. A cushion or another chair helps.' },
  'cello-feet-not-set': {
    title: 'Feet that carry the seat',
    aim: 'Set both feet down',
    says: 'Flat on the floor, a little wider than the shoulders. You can stand up without moving them.',
  },
  'cello-leaning-off': {
    title: 'A cello that leans on you',
    aim: 'Set the pin anew',
    says: 'The upper edge rests on the breastbone, the pegs are beside the ear. It stays when the hands let go.',
  },
  leaning: { title: 'Tall and even', aim: 'Stand over both feet', says: 'Rock to both sides, let it grow small, and begin from there.' },
  'shoulder-raised': { title: 'Shoulders that hang', aim: 'Let the shoulders down', says: 'Lift them, hold, let them fall. There is room between ear and shoulder.' },
  'head-clamped': { title: 'A light head', aim: 'Lay the head down, do not press', says: 'The head rests by its own weight. You can talk while you hold the instrument.' },
  'head-over-turned': { title: 'A light head', aim: 'Turn the head only a little', says: 'The instrument comes to you; the head need not go far to meet it.' },
  'left-elbow-on-ribs': { title: 'Daylight under the arm', aim: 'Let the left elbow hang free', says: 'A soft ball fits between elbow and ribs.' },
  'scroll-droops': {
    title: 'Scroll up, all the way through',
    aim: 'Let the scroll look ahead',
    says: 'The strings lie about level with the floor. When the left arm grows heavy, rest, then come up again.',
  },
  'scroll-too-high': {
    title: 'A level instrument',
    aim: 'Let the scroll come down a little',
    says: 'The strings lie about level with the floor. Someone at your side sees it better than you do.',
  },
  'instrument-in-front': {
    title: 'The instrument goes out to the left',
    aim: 'Point to eleven o’clock',
    says: 'Straight ahead is twelve. The scroll points between ten and eleven.',
  },
  'instrument-too-far-left': {
    title: 'The instrument comes a little to the front',
    aim: 'Point to ten o’clock',
    says: 'Straight ahead is twelve. The scroll points between ten and eleven, no further.',
  },
  'instrument-too-flat': {
    title: 'Tilt the instrument a little',
    aim: 'Let the high string come down',
    says: 'The instrument leans a little toward the bow, so that the arm reaches every string.',
  },
  'instrument-too-steep': { title: 'A flatter instrument', aim: 'Lift the high string’s side', says: 'The instrument leans only a little. Check the pad under it.' },
  'instrument-moves': { title: 'A quiet instrument', aim: 'Only the bow moves', says: 'The scroll stays where it is while the bow goes to and fro, as if it rested on a shelf.' },
  'thumb-straight': { title: 'A round thumb', aim: 'Bend the thumb outward', says: 'The thumb points out a little and stays soft. There is a hole between it and the fingers.' },
  'thumb-bent-back': { title: 'A round thumb', aim: 'Bend the thumb outward', says: 'The thumb points out, never in. If it snaps back, shake the hand and set it anew.' },
  'little-straight': { title: 'A round little finger', aim: 'Curl the little finger', says: 'It stands on its tip on top of the stick, round like a bridge.' },
  'little-collapsed': { title: 'A round little finger', aim: 'Keep the little finger up', says: 'It stands on its tip, round like a bridge, and does not fall in.' },
  'little-off-stick': { title: 'A round little finger', aim: 'Set it on the stick', says: 'Its tip rests on top of the stick, round, and stays there while the bow goes.' },
  'fingers-perched': { title: 'Fingers that hang over', aim: 'Over to the first joint', says: 'The middle fingers lie over the stick to their first joint, not on their tips.' },
  'fingers-too-deep': { title: 'Fingers that hang over', aim: 'Only to the first joint', says: 'The middle fingers lie over the stick to their first joint and no further.' },
  'fingers-bunched': { title: 'Room for every finger', aim: 'A finger’s width between', says: 'Index and little finger each stand a finger’s width away from their neighbours.' },
  'fingers-spread': { title: 'A hand that stays together', aim: 'Bring the fingers closer', says: 'The two middle fingers touch; the others stand a finger’s width away.' },
  'index-stretched': { title: 'A hand that stays together', aim: 'Bring the index finger home', says: 'It lies round over the stick, a finger’s width from its neighbour.' },
  'hand-closed': { title: 'A hole in the hand', aim: 'Keep the hole open', says: 'Between thumb and fingers there is a round hole. You can look through it.' },
  'hand-rigid': { title: 'A hand that gives', aim: 'Soft fingers', says: 'The fingers change a little on the way from frog to tip, like a sponge.' },
  'wrist-bent': { title: 'A straight wrist', aim: 'Straight in the middle', says: 'In the middle of the bow, forearm and back of the hand make one line.' },
  'tip-to-scroll': {
    title: 'Straight bow, all the way to the tip',
    aim: 'Let the hand go forward',
    says: 'Past the middle the elbow opens and the hand travels away in front of you, not round the side.',
  },
  'tip-to-player': { title: 'Straight bow, all the way to the tip', aim: 'Keep the hand nearer', says: 'Past the middle the hand stays on its line; it does not reach out.' },
  'crooked-at-frog': {
    title: 'Straight bow, from the very frog',
    aim: 'Bring the arm in at the frog',
    says: 'Near the frog the upper arm comes in and lifts a little, so that the bow stays square.',
  },
  'bow-arcs': { title: 'A bow that travels straight', aim: 'Draw a line, not a curve', says: 'The bow goes to and fro on one line, like a train on its rail.' },
  'stroke-from-shoulder': {
    title: 'An elbow that opens like a door',
    aim: 'Open the elbow past the middle',
    says: 'Up to the middle the whole arm goes; from there only the forearm, as the elbow opens.',
  },
  'elbow-behind': {
    title: 'An elbow that stays in front',
    aim: 'Leave the elbow where it is',
    says: 'Past the middle only the forearm goes on. The elbow does not go behind your back.',
  },
  'elbow-too-low': { title: 'An elbow for every string', aim: 'Lift the elbow to the string', says: 'The upper arm runs along with the bow: higher for the low strings.' },
  'elbow-too-high': {
    title: 'An elbow for every string',
    aim: 'Let the elbow hang to the string',
    says: 'The upper arm runs along with the bow: lower for the high strings. Shoulders stay down.',
  },
  'elbow-wrist-apart': { title: 'Elbow and wrist on one level', aim: 'Elbow as high as the wrist', says: 'In the middle of the bow, elbow and wrist are at the same height.' },
  'right-angle-missed': {
    title: 'Square in the middle',
    aim: 'Find the right angle',
    says: 'In the middle of the bow the elbow is square: halt there and look.',
  },
  'on-fingerboard': {
    title: 'A bow that keeps its place',
    aim: 'Keep to the pale strip',
    says: 'Half-way between bridge and fingerboard, for the whole bow. Look, then close your eyes and listen.',
  },
  'at-bridge': { title: 'A bow that keeps its place', aim: 'Come away from the bridge', says: 'Half-way between bridge and fingerboard. The tone gets warmer there.' },
  'contact-drifts': { title: 'A bow that keeps its place', aim: 'One road for the whole bow', says: 'The bow crosses the strings in the same place from frog to tip.' },
  'contact-jumps': { title: 'A bow that keeps its place', aim: 'Turn where you are', says: 'When the bow changes direction it stays on its road: no step to the side.' },
  'uneven-shares': { title: 'Fair shares of the bow', aim: 'As much bow for each note', says: 'Notes of one length get one length of bow, to and fro.' },
  'small-part-of-bow': { title: 'More bow', aim: 'Let the bow travel', says: 'Long notes use nearly all of it. Begin near the frog and do not stop at the middle.' },
  'levels-not-distinct': {
    title: 'A height for every string',
    aim: 'The whole arm changes string',
    says: 'Every string has its own height of the arm. Go there with the whole arm, not only with the hand.',
  },
  'level-lost': { title: 'One height for one string', aim: 'Keep the level to the end', says: 'The arm keeps its height from frog to tip, also when you look away.' },
  'runs-out-of-bow': {
    title: 'Bow enough for every note',
    aim: 'Save bow for the end',
    says: 'Share the bow before you begin: the last part of the note needs as much as the first.',
  },
  'speed-collapses': { title: 'A bow that keeps going', aim: 'Even all the way', says: 'The bow travels as evenly as a ferry: it does not slow in the middle.' },
  'stops-between-strokes': { title: 'Turn without a stop', aim: 'Round corners', says: 'At the end of the bow, turn at once, as a swing does.' },
  'slow-recovery': { title: 'Back on the road', aim: 'Start each bow in place', says: 'If one bow strays, look, and start the next one back in its place.' },
  'crossing-late': {
    title: 'From string to string together',
    aim: 'Let the arm be ready',
    says: 'The arm goes to the new string while the old note still sounds, and arrives with the new one.',
  },
  'crossing-early': { title: 'From string to string together', aim: 'Let the arm wait', says: 'The arm stays until the note is over, and arrives with the new one.' },
  'left-wrist-collapsed': { title: 'Room under the neck', aim: 'A straight left wrist', says: 'Forearm and back of the hand make one line. The palm stays away from the neck.' },
  'back-hollow': { title: 'Tall and even', aim: 'A long back', says: 'Someone lays a flat hand on the small of your back, and the back grows long against it.' },
  'arm-not-parallel': {
    title: 'An elbow for every string',
    aim: 'Keep the arm along with the bow',
    says: 'From frog to tip the upper arm keeps the bow’s level. Halt at each third and look.',
  },
  'extra-noise-at-start': { title: 'Notes that begin clean', aim: 'Start light', says: 'The bow moves as soon as it leans on the string. Breathe in, and go.' },
  airy: { title: 'A full tone', aim: 'Keep to the pale strip', says: 'Where the tone has too much breath, bring the bow a little nearer the bridge.' },
  glassy: { title: 'A warm tone', aim: 'Come away from the bridge', says: 'Where the tone turns hard, bring the bow back to the middle of the pale strip.' },
  scratchy: { title: 'A tone without scratching', aim: 'More bow, less weight', says: 'A slow bow carries little weight: let it travel more, or lean less.' },
  'two-strings': { title: 'One string at a time', aim: 'Only one string sounds', says: 'When two sound, halt. Find the arm’s height for this string, then go on.' },
  'neighbour-touched': { title: 'One string at a time', aim: 'Only one string sounds', says: 'When two sound, halt. Find the arm’s height for this string, then go on.' },
};

/** Words for the family; undefined for a fault that has none. */
export const familyWords = (fault: string): FamilyWords | undefined => WORDS[fault];
