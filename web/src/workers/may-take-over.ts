/** Whether a newer page may take over from the one that is open: never while a bench is, on any tab of this device. */
export const mayTakeOver = (openUrls: readonly string[]): boolean => !openUrls.some((url) => new URL(url).pathname.startsWith('/runs/'));
