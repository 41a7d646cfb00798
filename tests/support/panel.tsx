// A panel as a browser would show it: with a session that is open, and with a server that does not answer yet.
import { render, type RenderResult } from '@testing-library/react';
import userEvent, { type UserEvent } from '@testing-library/user-event';
import type { ReactElement } from 'react';
import { onTestFinished, vi } from 'vitest';
import { openStudio, useSession } from '@/client';
import type { SessionDoc } from '@/core/session';
import { Surround } from '@/places/frame/surround';

let end = (): void => {};

/** The session as it is now. */
export const docNow = (): SessionDoc => useSession.getState().doc!;

export function showPanel(panel: ReactElement, doc: SessionDoc): RenderResult & { user: UserEvent } {
  vi.stubGlobal('fetch', () => new Promise(() => {}));
  vi.stubGlobal('EventSource', class extends EventTarget {});
  end();
  end = openStudio('s');
  onTestFinished(() => {
    end();
    end = () => {};
  });
  useSession.setState({ doc, base: doc, sounding: doc, id: 's', pending: [], online: true });
  return { user: userEvent.setup(), ...render(<Surround>{panel}</Surround>) };
}
