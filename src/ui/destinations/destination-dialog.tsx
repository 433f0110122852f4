'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import { FormProvider, useForm, type Resolver } from 'react-hook-form';
import { sentenceOf } from '../../core/sentence-of';
import { destinationSentence } from '../../core/deliver/describe';
import { destinationSchema, type Destination } from '../../core/deliver/destination';
import { EncodeFields } from './encode-fields';
import { FileFields } from './file-fields';
import { LevelFields } from './level-fields';
import { NamedField } from './requirement-row';

/** The sentence that the fields write, as far as they can be read. */
function Sentence({ draft }: { draft: unknown }) {
  const read = destinationSchema.safeParse(draft);
  return (
    <Box
      role="status"
      sx={{
        ...{ position: 'sticky', top: 0, zIndex: 1, py: 1, mb: 1, bgcolor: 'background.paper' },
        ...{ borderBottom: 1, borderColor: 'divider', minHeight: 62 },
        color: read.success ? 'text.primary' : 'text.secondary',
      }}
    >
      {read.success ? destinationSentence(read.data) : `Not complete yet: ${read.error.issues[0].message}`}
    </Box>
  );
}

/** Edits a destination; the sentence above says what the fields come to. `onSave` rejects with a sentence. */
export function DestinationDialog({
  isNew,
  settings,
  onSave,
  onClose,
}: {
  isNew: boolean;
  settings: Destination;
  onSave: (settings: Destination) => Promise<void>;
  onClose: () => void;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const form = useForm<Destination>({
    resolver: zodResolver(destinationSchema as never) as unknown as Resolver<Destination>,
    defaultValues: settings,
  });
  const { handleSubmit, formState, watch } = form;
  const submit = handleSubmit(
    async (values) => {
      setProblem(null);
      try {
        await onSave(values);
        onClose();
      } catch (error) {
        setProblem(sentenceOf(error));
      }
    },
    () => setProblem('Some of it can’t be saved yet: look at the fields in red.'),
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <FormProvider {...form}>
        <form noValidate onSubmit={(event) => void submit(event)} style={{ display: 'contents' }}>
          <DialogTitle>{isNew ? 'New destination' : `Destination “${settings.name}”`}</DialogTitle>
          <DialogContent>
            <Sentence draft={watch()} />
            <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, gap: 1.5, my: 1.5 }}>
              <NamedField name="name" label="Name" />
              <NamedField name="source" label="Source of its figures" />
            </Box>
            <LevelFields />
            <EncodeFields />
            <FileFields />
          </DialogContent>
          <DialogActions>
            {problem && (
              <Alert severity="error" sx={{ flex: 1 }}>
                {problem}
              </Alert>
            )}
            <Button color="inherit" onClick={onClose}>
              Cancel
            </Button>
            <Button type="submit" variant="contained" disabled={formState.isSubmitting}>
              {isNew ? 'Put on the shelf' : 'Save'}
            </Button>
          </DialogActions>
        </form>
      </FormProvider>
    </Dialog>
  );
}
