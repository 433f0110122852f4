import { ATTACKS, QUOTA_GB } from '../prove/attack';
import { Application } from '../support/application';

const env = {
  COPPER_QUOTA_GB: String(QUOTA_GB),
  COPPER_MIN_FREE_MB: '0',
  COPPER_PROXIES: '1',
  COPPER_STALL_MS: '3000',
};
const application = new Application({ env });
beforeAll(() => application.start());
afterAll(() => application.stop());

test.each(ATTACKS.map((attack) => [attack.name, attack] as const))('%s', async (_, { attack }) => {
  await expect(attack(application, 1)).resolves.toBeUndefined();
});
