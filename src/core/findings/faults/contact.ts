import { type Fault, where } from './fault';

export const onFingerboard: Fault = {
  id: 'on-fingerboard',
  kind: 'frame',
  quantity: 'contact_fraction',
  unit: 'strip',
  title: (third) => `${where(third)}too near the fingerboard.`,
  band: ({ contactFraction: b }) => [b.middle - b.good, b.middle + b.good],
  beyond:
    ({ contactFraction: b }) =>
    (value) =>
      value - (b.middle + b.fault),
  exercises: ['Far-side bowing', 'Long open bows'],
};

export const atBridge: Fault = {
  id: 'at-bridge',
  kind: 'frame',
  quantity: 'contact_fraction',
  unit: 'strip',
  title: (third) => `${where(third)}too near the bridge.`,
  band: ({ contactFraction: b }) => [b.middle - b.good, b.middle + b.good],
  // Behind the bridge is an exercise on purpose and is not judged.
  beyond:
    ({ contactFraction: b }) =>
    (value) =>
      value < 0 ? -1 : b.middle - b.fault - value,
  exercises: ['Long open bows', 'Three stations'],
};

export const contactDrifts: Fault = {
  id: 'contact-drifts',
  kind: 'stroke',
  quantity: 'contact_range',
  restsOn: 'contact_fraction',
  unit: 'strip',
  title: () => 'Within a stroke, the contact point wanders.',
  band: ({ contactRange: b }) => [0, b.good],
  measure: (stroke) => stroke.contactRange,
  beyond:
    ({ contactRange: b }) =>
    (value) =>
      value - b.fault,
  exercises: ['Three stations', 'Gate'],
};
