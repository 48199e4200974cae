/** Why points of a customer moved. */
export const POINTS_REASONS = [
  'opening',
  'reward',
  'given back',
  'taken again',
  'merged',
  'forgotten',
] as const;

export type PointsReason = (typeof POINTS_REASONS)[number];
