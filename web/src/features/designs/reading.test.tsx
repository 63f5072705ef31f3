// @vitest-environment jsdom
import { type DesignDocument, type DesignEdit, foldDesign } from '@kestfog/core/design';
import { fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { expect, it } from 'vitest';
import { Reading } from './Reading.js';

const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="80mm" viewBox="0 0 80 80"><circle id="edge" cx="40" cy="40" r="38" fill="none" stroke="#000"/>
  <rect id="base" x="10" y="10" width="60" height="60" fill="#fff"/><circle id="dot" cx="30" cy="30" r="2" fill="#000"/><path id="way" d="M12 50H68" fill="none" stroke="#222"/></svg>`;

function Page() {
  const [edits, setEdits] = useState<readonly DesignEdit[]>([]);
  const design = foldDesign({ format: 'kestfog-design/3', name: 'd', svg, edits } as DesignDocument);
  return <Reading design={design} onPart={() => undefined} onEdit={(...more) => setEdits([...edits, ...more])} />;
}

it('guesses are walked through: right goes on to the next with the same key, or it is said what it is', () => {
  render(<Page />);
  expect(screen.getByText('3 guesses to look at')).toBeTruthy();
  // The dot is not a drop but a small flood of its own; the others were read rightly.
  for (let left = 3; left > 0; left--) {
    const other = screen.queryByRole('button', { name: 'No: a small flood' });
    fireEvent.click(other ?? screen.getByRole('button', { name: 'Right' }));
    if (left > 1) expect(document.activeElement?.textContent).toBe('Right');
  }
  expect(screen.getByText('2 sections, 0 wet marks, 1 details were read.')).toBeTruthy();
  // As a flood it lies on another: that is a guess of its own.
  fireEvent.click(screen.getByRole('button', { name: 'Right' }));
  expect(screen.queryByRole('button', { name: 'Right' })).toBeNull();
});
