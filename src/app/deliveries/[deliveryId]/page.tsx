import { redirect } from 'next/navigation';
import { currentAccount } from '@/server/accounts/session';
import { DeliveryView } from '@/ui/delivery/delivery-view';

export default async function DeliveryPage({ params }: { params: Promise<{ deliveryId: string }> }) {
  if (!(await currentAccount())) redirect('/sign-in');
  return <DeliveryView deliveryId={(await params).deliveryId} />;
}
