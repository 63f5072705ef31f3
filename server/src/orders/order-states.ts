/** Which list an order is in: still to be packed, packed, or deleted. */
export const orderStates = ['open', 'packed', 'trash'] as const;
export type OrderState = (typeof orderStates)[number];
