/** Why points of a customer moved. */
export const POINTS_REASONS = [
  'opening',
  'earned',
  'earned again',
  'taken back',
  'reward',
  'given back',
  'taken again',
  'money off',
  'money off given back',
  'money off taken again',
  'ended',
  'corrected',
  'merged',
  'forgotten',
] as const;

export type PointsReason = (typeof POINTS_REASONS)[number];
