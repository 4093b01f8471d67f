import { type FrameFault, type StrokeFault, where } from './fault';

const contact = {
  kind: 'frame',
  quantity: 'contact_fraction',
  unit: 'strip',
  band: (bands) => bands.contactFraction,
  scale: { range: [0, 1.2], ends: ['bridge', '', 'fingerboard'] },
} as const satisfies Partial<FrameFault>;

export const onFingerboard: FrameFault = {
  ...contact,
  id: 'on-fingerboard',
  title: (third) => `${where(third)}too near the fingerboard.`,
  side: 'above',
  exercises: ['Far-side bowing', 'Long open bows'],
};

export const atBridge: FrameFault = {
  ...contact,
  id: 'at-bridge',
  title: (third) => `${where(third)}too near the bridge.`,
  side: 'below',
  // Behind the bridge is an exercise on purpose.
  spared: (value) => value < 0,
  exercises: ['Long open bows', 'Three stations'],
};

export const contactDrifts: StrokeFault = {
  id: 'contact-drifts',
  kind: 'stroke',
  quantity: 'contact_range',
  restsOn: 'contact_fraction',
  unit: 'strip',
  title: () => 'Within a stroke, the contact point wanders.',
  band: (bands) => bands.contactRange,
  side: 'above',
  scale: { range: [0, 0.6], ends: ['on one place', '', 'wanders'] },
  measure: (stroke) => stroke.contactRange,
  exercises: ['Three stations', 'Gate'],
};
