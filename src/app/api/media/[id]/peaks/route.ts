import { binary, route } from '@/server/http';
import { newKernels } from '@/server/kernels';
import { pathOfMedia, peaksOf } from '@/server/media';

export const GET = route<{ id: string }>(async (_request, { id }) =>
  binary(await peaksOf(newKernels(), await pathOfMedia(id))),
);
