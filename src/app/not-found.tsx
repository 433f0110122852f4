import { PlainPage } from '@/ui/kit/plain-page';

/** For addresses that lead nowhere. Part of every page, so it brings nothing along. */
export default function NotFound() {
  return (
    <PlainPage title="There is nothing here">
      <p>The address may be mistyped, or what was here has been deleted.</p>
      <p>
        <a href="/">Go to your releases</a>
      </p>
    </PlainPage>
  );
}
