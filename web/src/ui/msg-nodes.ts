import { piecesOf } from '@kestfog/core/words';
import { createElement, Fragment, type ReactNode } from 'react';

/** A sentence in the language that is spoken, with parts of the page in it: msgNodes`Made by ${<b>{name}</b>}` */
export const msgNodes = (strings: TemplateStringsArray, ...values: readonly ReactNode[]): ReactNode =>
  createElement(Fragment, null, ...piecesOf(strings).map((piece) => (typeof piece === 'string' ? piece : values[piece])));
