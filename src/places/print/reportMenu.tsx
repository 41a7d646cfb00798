import { FileText } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { PrintFacts } from '@/core/print';

const KINDS = [
  { as: 'pdf', label: 'PDF', note: 'for paper', save: true },
  { as: 'csv', label: 'Table', note: 'comma-separated', save: true },
  { as: 'txt', label: 'Text', note: '', save: true },
  { as: 'json', label: 'The proof as data', note: 'JSON', save: true },
] as const;

/** The report of a print: read here, or taken along. All of it is in the archive too. */
export function ReportMenu({ print }: { print: PrintFacts }) {
  const address = (as: string, save: boolean) => `/api/prints/${print.id}/report?as=${as}${save ? '&save' : ''}`;
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="btn">
        <FileText size={14} /> Report
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="pop min-w-47.5 p-1" sideOffset={4} align="end">
          <DropdownMenu.Item className="menu-item" asChild>
            <a href={address('html', false)} target="_blank" rel="noreferrer">
              Read it <span className="small ml-auto text-quiet">page</span>
            </a>
          </DropdownMenu.Item>
          {KINDS.map(({ as, label, note, save }) => (
            <DropdownMenu.Item key={as} className="menu-item" asChild>
              <a href={address(as, save)} download>
                {label} <span className="small ml-auto text-quiet">{note}</span>
              </a>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
