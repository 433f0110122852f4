import type { Metadata } from 'next';
import { requireThere, signedIn, titleOf } from '@/server/accounts/signed-in';
import { DeliveryView } from '@/ui/delivery/delivery-view';

interface Props {
  params: Promise<{ deliveryId: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: (await titleOf('deliveries', (await params).deliveryId)) ?? 'Delivery' };
}

export default async function DeliveryPage({ params }: Props) {
  const { deliveryId } = await params;
  await signedIn(`/deliveries/${deliveryId}`);
  await requireThere('deliveries', deliveryId);
  return <DeliveryView deliveryId={deliveryId} />;
}
