import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, it, vi } from 'vitest';
import { FileButton } from './fileButton';
import { useFilePicker } from './filePicker';

const file = (name: string) => new File(['x'], name, { type: 'audio/wav' });

it('a chosen file is given on, and the same one may be chosen again', async () => {
  const onFile = vi.fn();
  render(
    <FileButton label="Sound to bring in" accept=".wav" onFile={onFile}>
      Bring in
    </FileButton>,
  );
  const user = userEvent.setup();
  const input = screen.getByLabelText<HTMLInputElement>('Sound to bring in');
  const one = file('one.wav');
  await user.upload(input, one);
  await user.upload(input, one);
  expect(onFile.mock.calls.map(([f]) => (f as File).name)).toEqual(['one.wav', 'one.wav']);
  expect(input.value).toBe('');
});

it('a button that is passed by the keyboard opens the choice', async () => {
  render(
    <FileButton label="Sound" onFile={() => {}}>
      Bring in
    </FileButton>,
  );
  const opened = vi.spyOn(screen.getByLabelText<HTMLInputElement>('Sound'), 'click');
  const user = userEvent.setup();
  await user.tab();
  expect(document.activeElement).toBe(screen.getByRole('button', { name: 'Bring in' }));
  await user.keyboard('{Enter}');
  expect(opened).toHaveBeenCalledTimes(1);
});

it('several are given on together; none where nothing was chosen', async () => {
  const onFiles = vi.fn();
  function Shown() {
    const { pick, input } = useFilePicker({ label: 'Sounds', multiple: true, onFiles });
    return (
      <>
        <button onClick={pick}>Choose</button>
        {input}
      </>
    );
  }
  render(<Shown />);
  const user = userEvent.setup();
  const input = screen.getByLabelText<HTMLInputElement>('Sounds');
  await user.upload(input, []);
  expect(onFiles).not.toHaveBeenCalled();
  await user.upload(input, [file('a.wav'), file('b.wav')]);
  expect((onFiles.mock.calls[0]![0] as File[]).map((f) => f.name)).toEqual(['a.wav', 'b.wav']);
});
