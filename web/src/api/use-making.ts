import { reportsOfRuns } from '@kestfog/core/bench';
import { factorsOf, learnFactors, reportOfTold } from '@kestfog/core/calibration';
import { type Air, airInDehydrator, type Factors, REFERENCE_AIR, setUpSpeedMPerS, withFan } from '@kestfog/core/drying';
import type { Making } from '@kestfog/core/planning';
import { type Tip, USUAL_TIPS } from '@kestfog/core/steps';
import type { ClimateReading, OrderView } from '@kestfog/core/wire';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { api } from './client.js';
import { useBenchTouches, useKitchen, useTouches } from './queries.js';

/** What this kitchen's fingers taught of its thresholds; the book's until anything was reported. */
export function useFactors(): Factors {
  const told = useTouches().list.data;
  const atBench = useBenchTouches().data;
  return useMemo(() => factorsOf(learnFactors([...reportsOfRuns(atBench ?? []), ...(told ?? []).map(reportOfTold)])), [told, atBench]);
}

/** The kitchen as checks and plans see it, whatever the order. */
export interface KitchenNow {
  readonly air: Air;
  /** whether that air was read by the sensor just now, or is what was said of the kitchen */
  readonly airFrom: 'sensor' | 'kitchen';
  readonly airAt: { readonly fan: Air; readonly dehydrator: Air };
  readonly factors: Factors;
  readonly tips: readonly Tip[];
}

/** The air of this kitchen, as its sensor reads it or as it was said, with what it learned and the tips it has. */
export function useKitchenNow(): KitchenNow {
  const kitchen = useKitchen().data;
  const factors = useFactors();
  // Asked once, not streamed: what is checked must not flicker with every sway of the air.
  const reading = useQuery({
    queryKey: ['climate'],
    queryFn: () => api<ClimateReading>('/climate'),
    staleTime: 300_000,
    retry: false,
  }).data;
  return useMemo(() => {
    const said: Air = kitchen
      ? { tempC: kitchen.air.tempC, humidityFrac: kitchen.air.humidityPct / 100, airMPerS: kitchen.air.airMPerS }
      : REFERENCE_AIR;
    // A simulated sensor plays weather; only a real one knows the kitchen better than who stands in it.
    const read = reading && reading.simulated === null ? { ...said, tempC: reading.tempC, humidityFrac: reading.humidityPct / 100 } : null;
    const air = read ?? said;
    return {
      air,
      airFrom: read ? 'sensor' : 'kitchen',
      airAt: {
        fan: withFan(air, kitchen ? setUpSpeedMPerS(kitchen.fan) : undefined),
        dehydrator: airInDehydrator(air, kitchen?.dehydrator.tempC ?? 35, kitchen?.dehydrator.airMPerS),
      },
      factors,
      tips: kitchen?.tips ?? USUAL_TIPS,
    };
  }, [kitchen, factors, reading]);
}

/** An order's own air, fan, dehydrator, school and margin, with what the kitchen learned and has. */
export function useOrderMaking(order: OrderView): Making & { readonly tips: readonly Tip[] } {
  const { factors, tips } = useKitchenNow();
  return useMemo(() => {
    const air: Air = { tempC: order.air.tempC, humidityFrac: order.air.humidityPct / 100, airMPerS: order.air.airMPerS };
    return {
      school: order.schoolUsed,
      air,
      margin: order.margin,
      factors,
      airAt: {
        fan: order.fan ? withFan(air, order.fan.airMPerS) : null,
        dehydrator: order.dehydrator ? airInDehydrator(air, order.dehydrator.tempC, order.dehydrator.airMPerS) : null,
      },
      tips,
    };
  }, [order, factors, tips]);
}
