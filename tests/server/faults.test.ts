import { FAULTS } from '../prove/faults';
import { Application } from '../support/application';

const application = new Application({ env: { COPPER_MIN_FREE_MB: '0' } });
beforeAll(() => application.start());
afterAll(() => application.stop());

test.each(FAULTS.map((fault) => [fault.name, fault] as const))('%s', async (_, fault) => {
  await expect(fault.provoke(application)).resolves.toBeUndefined();
});
