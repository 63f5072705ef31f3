declare const kind: unique symbol;

/**
 * A name in a plan or a log that says of what it is one. Plain text from a file or a test may be used as one; one kind of name
 * may not be used where another belongs, which is what gets mixed up.
 */
export type Id<K extends string> = string & { readonly [kind]?: K };

export type DesignId = Id<'design'>;
export type StepId = Id<'step'>;
export type TrayId = Id<'tray'>;
export type LotId = Id<'lot'>;
export type TaskId = Id<'task'>;
export type StayId = Id<'stay'>;
