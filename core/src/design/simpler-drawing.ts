/** What is offered to a drawing with too many points: finer than any tip. */
export const SIMPLIFIED_BY_MM = 0.1;
/** The drawing as it is, with the wish to be simplified as it is read. */
export const askedToSimplify = (svg: string): string => svg.replace(/<svg(?=[\s>])/i, `$& data-simplify-mm="${SIMPLIFIED_BY_MM}"`);
