/** What is kept of an evening besides typed words: a photo of a cookie, or words that were spoken. */
export const recordingKinds = ['photo', 'voice'] as const;
export type RecordingKind = (typeof recordingKinds)[number];

/** Longest side of a photo as it is kept, pixels: enough to see a crater on a cookie, a tenth of what a camera gives. */
export const PHOTO_SIDE_PX = 1600;
/** So long somebody may speak, s. */
export const SPOKEN_MOST_S = 60;
/** So large one may be as it is kept, bytes. */
export const RECORDING_MOST_BYTES = 1_500_000;
/** So many belong to one run at most. */
export const RECORDINGS_OF_RUN = 200;
