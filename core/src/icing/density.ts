/** Royal icing, beaten and settled: *assumed*. */
export const ICING_DENSITY_KG_PER_M3 = 1400;
