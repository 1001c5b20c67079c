import { Big } from 'big.js';
import { type Currency, type DecimalText, type Explanation, formatMoney, type Money, roundToMinor, step } from '../../ground';

export const DISTANCE_UNITS = ['km', 'miles'] as const;
export type DistanceUnit = (typeof DISTANCE_UNITS)[number];

/** What a way costs at so much for one unit of it, rounded once. @param distance in the house's unit, one place */
export function worthOfDistance(
  distance: DecimalText,
  rate: DecimalText,
  { unit, currency }: { readonly unit: DistanceUnit; readonly currency: Currency },
): { readonly net: Money; readonly explanation: Explanation } {
  const net = roundToMinor(new Big(distance).times(rate), 1, currency);
  return { net, explanation: [step(`${distance} ${unit} at ${rate} for one, rounded once`, formatMoney(net))] };
}
