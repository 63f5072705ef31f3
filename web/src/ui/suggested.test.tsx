import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, describe, expect, it } from 'vitest';
import { Suggested } from './Suggested.js';

afterEach(cleanup);

const MONEY = [
  { id: 'DKK', label: 'Danish krone' },
  { id: 'EUR', label: 'euro' },
  { id: 'NOK', label: 'Norwegian krone' },
  { id: 'SEK', label: 'Swedish krona' },
];
function Field() {
  const [value, setValue] = useState('');
  return <Suggested label="money" value={value} suggestions={MONEY} maxLength={4} describedBy="" onChange={setValue} />;
}
const shown = () =>
  within(screen.getByRole('listbox'))
    .getAllByRole('option')
    .map((o) => o.textContent);

describe('a field with suggestions', () => {
  it('finds by the code or a word of the name, takes the one chosen by keys, and whatever else is typed', async () => {
    render(<Field />);
    const field = screen.getByLabelText('money') as HTMLInputElement;
    field.focus();
    const type = (value: string) => fireEvent.input(field, { target: { value }, inputType: 'insertText' });
    type('kron');
    await screen.findByRole('listbox');
    expect(shown()).toEqual(['DKK Danish krone', 'NOK Norwegian krone', 'SEK Swedish krona']);
    type('e');
    expect(shown()).toEqual(['EUR euro']);
    fireEvent.keyDown(field, { key: 'ArrowDown' });
    fireEvent.keyDown(field, { key: 'Enter' });
    expect(field.value).toBe('EUR');
    type('₡');
    expect(field.value).toBe('₡');
    expect(screen.queryByRole('option')).toBeNull();
  });
});
