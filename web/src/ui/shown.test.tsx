// @vitest-environment happy-dom
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { Provider } from 'react-redux';
import { afterEach, describe, expect, it } from 'vitest';
import { degreesChosen } from '../data/settings.ts';
import { store } from '../data/store.ts';
import { NumberField } from './Field.tsx';
import { Notice } from './Notice.tsx';
import { textOf } from '../tests/textOf.ts';

const user = userEvent.setup();
afterEach(() => {
  store.dispatch(degreesChosen('C'));
  document.body.innerHTML = '';
});
const Mine = () => <b>40 °C by itself</b>;

describe('what is shown in other degrees', () => {
  it('are sentences, put together from their pieces, and what stands in plain elements; parts with a mind of their own stay', () => {
    store.dispatch(degreesChosen('F'));
    render(
      <Provider store={store}>
        <Notice tone="hint">
          Room band {20} to {25} °C.{' '}
          <em>
            Off by {0.5} K, 2 K/W, {''}a limit of 95 °C
          </em>
          <Mine />
        </Notice>
      </Provider>,
    );
    expect(textOf(document.body)).toBe(
      'Room band 68 to 77 °C. Off by 0.9 °F, 2 K/W, a limit of 203 °F40 °C by itself'.replace('77 °C', '77 °F'),
    );
  });
});

function Bench({ unit, start }: { unit: string; start: number }) {
  const [value, setValue] = useState(start);
  return (
    <Provider store={store}>
      <NumberField label="Figure" unit={unit} pointer="/x" value={value} onChange={setValue} />
      <output>{value}</output>
    </Provider>
  );
}
const field = () => screen.getByLabelText<HTMLInputElement>('Figure');
const kept = () => Number(document.querySelector('output')!.textContent);

describe('a field', () => {
  it.each([
    ['°C', 95, '203', '°F', '212', 100],
    ['K', 1, '1.8', '°F', '0.9', 0.5],
    ['W', 60, '60', 'W', '61', 61],
    ['K/W', 2, '2', 'K/W', '3', 3],
  ])(
    'in %s shows and takes the degrees that were chosen, and keeps what it always kept',
    async (unit, start, shown, shownUnit, typed, then) => {
      store.dispatch(degreesChosen('F'));
      render(<Bench unit={unit} start={start} />);
      expect(field().value).toBe(shown);
      expect(screen.getByText(shownUnit)).toBeTruthy();
      await user.clear(field());
      expect(Number.isNaN(kept())).toBe(true);
      await user.type(field(), typed);
      expect(kept()).toBeCloseTo(then, 9);
      // What was typed is what is shown, whatever digits it takes to keep it.
      await user.tab();
      expect(field().value).toBe(typed);
    },
  );
  it('of figures that come out crooked shows no more digits than were meant', () => {
    store.dispatch(degreesChosen('F'));
    render(<Bench unit="°C" start={(100 - 32) / 1.8} />);
    expect(field().value).toBe('100');
  });
  it('in the degrees that are kept is left alone', () => {
    render(<Bench unit="°C" start={36.6} />);
    expect(field().value).toBe('36.6');
  });
});
