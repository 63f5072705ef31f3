import { type Design, readDesign } from '@kestfog/core/design';
import { REFERENCE_AIR } from '@kestfog/core/drying';
import { deriveSteps, schoolById } from '@kestfog/core/steps';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { PartWords } from './PartWords.js';

const design: Design = readDesign(
  `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="80mm" viewBox="0 0 80 80"><path id="gate" data-part="section" fill="#d9c7a6" d="M10 10H60V50H10Z"/>
   <path id="grain" data-technique="pen" fill="none" stroke="#7a5a3c" stroke-width="0.6" d="M20 14V60"/><path id="hedge" data-part="section" data-over="layer" fill="#6f9a4f" d="M10 40H60V70H10Z"/>
   <path id="mist" data-technique="airbrush" fill="#aabbcc" d="M12 42H30V60H12Z"/></svg>`,
);
const school = schoolById('two-bags');
const shown = (id: string, onSay = vi.fn()) => {
  const part = design.parts.find((p) => p.id === id);
  if (!part) throw new Error(id);
  render(
    <QueryClientProvider client={new QueryClient()}>
      <PartWords design={design} graph={deriveSteps(design, school)} part={part} school={school} air={REFERENCE_AIR} onSay={onSay} />
    </QueryClientProvider>,
  );
  return onSay;
};
afterEach(cleanup);

describe('a part’s own words on the screen', () => {
  it('what the school says stands where nothing is said, and why it comes here', () => {
    shown('grain');
    expect(screen.getByRole('combobox', { name: 'lies on icing that is' }).textContent).toContain('as the school says: firm');
    // Pens are held to the careful quantile: six hours and more.
    expect(Number(screen.getByLabelText('after at least, min').getAttribute('placeholder'))).toBeGreaterThan(300);
    expect(screen.getByText(/asks firm of gate .*gate is firm under the nib/)).toBeTruthy();
  });
  it('each field says one attribute, and an emptied one takes it back', () => {
    const said = shown('hedge');
    fireEvent.change(screen.getByRole('combobox', { name: 'lies on icing that is' }), { target: { value: 'crusted' } });
    expect(said).toHaveBeenLastCalledWith({ needs: 'crusted' });
    fireEvent.change(screen.getByRole('combobox', { name: 'dam' }), { target: { value: 'contrast' } });
    expect(said).toHaveBeenLastCalledWith({ dam: 'contrast', 'dam-colour': '#3a3f45' });
    const within90 = screen.getByLabelText('within, min');
    fireEvent.change(within90, { target: { value: '90' } });
    fireEvent.blur(within90);
    expect(said).toHaveBeenLastCalledWith({ 'within-min': '90' });
    fireEvent.change(screen.getByRole('combobox', { name: /comes after/ }), { target: { value: 'grain' } });
    expect(said).toHaveBeenLastCalledWith({ after: 'grain' });
    fireEvent.change(within90, { target: { value: 'soon' } });
    expect(screen.getByRole('alert').textContent).toContain('This must be a number.');
  });
  it('only what a part can heed is asked: an airbrush what it is held to, a pen no dam', () => {
    shown('mist');
    expect(screen.getByRole('combobox', { name: 'held to' })).toBeTruthy();
    cleanup();
    shown('grain');
    expect(screen.queryByRole('combobox', { name: 'dam' })).toBeNull();
  });
});
