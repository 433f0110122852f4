import { PlainPage } from '@/ui/kit/plain-page';

/** For an address that is not, or no longer, that of a link. */
export default function NoLink() {
  return (
    <PlainPage title="There is no listening link at this address">
      <p>Check that you copied all of it, or ask whoever sent it for a new one.</p>
    </PlainPage>
  );
}
