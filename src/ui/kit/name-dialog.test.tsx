import { act, fireEvent, render, screen } from '@testing-library/react';
import { newVersionSchema } from '../../contracts/version';
import { NameDialog } from './name-dialog';

function shown(onName: (name: string) => Promise<void>) {
  const onClose = jest.fn();
  const texts = { title: 'New version', hint: 'A copy of this one.', action: 'Create', name: 'Brighter' };
  render(<NameDialog {...texts} schema={newVersionSchema.shape.name} {...{ onName, onClose }} />);
  const field = screen.getByRole('textbox', { name: 'Name' });
  const submit = async (name: string) => {
    fireEvent.change(field, { target: { value: name } });
    fireEvent.submit(field);
    await act(() => new Promise(process.nextTick));
  };
  return { submit, onClose };
}

test('what the schema refuses is said beside the field, and nothing is sent', async () => {
  const onName = jest.fn(() => Promise.resolve());
  const { submit, onClose } = shown(onName);
  await submit('   ');
  expect(screen.getByText('Give the version a name.')).toBeTruthy();
  await submit('x'.repeat(61));
  expect(screen.getByText('The name can have up to 60 characters.')).toBeTruthy();
  expect(onName).not.toHaveBeenCalled();
  expect(onClose).not.toHaveBeenCalled();
});

test('what the server refuses is said beside the field; a name it takes closes the dialog', async () => {
  const onName = jest
    .fn<Promise<void>, [string]>()
    .mockRejectedValueOnce(new Error('There is already a version of this name.'))
    .mockResolvedValueOnce();
  const { submit, onClose } = shown(onName);
  await submit(' Louder ');
  expect(screen.getByText('There is already a version of this name.')).toBeTruthy();
  expect(onClose).not.toHaveBeenCalled();
  await submit(' Louder ');
  expect(onName).toHaveBeenLastCalledWith('Louder');
  expect(onClose).toHaveBeenCalledTimes(1);
});
