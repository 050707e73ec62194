// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { Provider } from 'react-redux';
import { afterEach, describe, expect, it } from 'vitest';
import type { PlanBody } from '@red-ember/contract';
import { studyBody } from '@red-ember/testing';
import { store } from '../data/store.ts';
import { StoppingFields } from './StoppingFields.tsx';

const user = userEvent.setup();
afterEach(cleanup);

function Plan({ known = null, started = false }: { known?: { sd: number; dof: number } | null; started?: boolean }) {
  const [body, setBody] = useState(studyBody());
  const setPlan = (part: Partial<PlanBody>) => setBody({ ...body, plan: { ...body.plan, ...part } });
  return (
    <Provider store={store}>
      <StoppingFields body={body} started={started} known={known} setPlan={setPlan} />
    </Provider>
  );
}
const rule = () => screen.getByLabelText<HTMLSelectElement>('It is decided').value;
const first = () => screen.getByLabelText<HTMLSelectElement>('First looked at').value;
const most = () => screen.getByLabelText<HTMLInputElement>('Looked at up to').value;

describe('when a plan is decided', () => {
  it('is proposed from one mount a side on where the bench knows how far its mounts lie apart', async () => {
    render(<Plan known={{ sd: 0.35, dof: 12 }} />);
    expect(screen.getByText(/mounts lie 0.35 K apart/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Plan it so' }));
    expect([rule(), first(), most()]).toEqual(['pocock', '1', '3']);
    // What is planned so already is not proposed again; what is planned otherwise is.
    expect(screen.queryByRole('button', { name: 'Plan it so' })).toBeNull();
    await user.selectOptions(screen.getByLabelText('First looked at'), '2');
    expect(screen.getByRole('button', { name: 'Plan it so' })).toBeTruthy();
  });
  it.each([null, { sd: 0.35, dof: 3 }])('is proposed from two on where it knows %j', async (known) => {
    render(<Plan known={known} />);
    await user.click(screen.getByRole('button', { name: 'Plan it so' }));
    expect([rule(), first(), most()]).toEqual(['obrien-fleming', '2', '4']);
  });
  it('is not proposed any more once there are runs', () => {
    render(<Plan started known={{ sd: 0.35, dof: 12 }} />);
    expect(screen.queryByRole('button', { name: 'Plan it so' })).toBeNull();
  });
});
