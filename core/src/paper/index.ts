/** What others may use of this folder. */
export * from './csv.js';
export * from './fonts.js';
export * from './page.js';
export * from './pdf.js';
export * from './run-sheet.js';
export * from './true-size.js';
export * from './work.js';
export * from './work-ask.js';
