import { FAULTS, FAULTS_ENVIRONMENT } from '../prove/faults';
import { Application } from '../support/application';

const application = new Application({ env: FAULTS_ENVIRONMENT });
beforeAll(() => application.start());
afterAll(() => application.stop());

test.each(FAULTS.map((fault) => [fault.name, fault] as const))('%s', async (_, fault) => {
  await expect(fault.provoke(application)).resolves.toBeUndefined();
});
