import { fuzz } from '../prove/fuzz';

test('mutated uploads, lanes and bodies are answered with words, and the server stays well', async () => {
  const [url, databaseUrl] = [process.env.TEST_URL!, process.env.DATABASE_URL!];
  await expect(fuzz({ url, databaseUrl, uploads: 60, lanes: 200, bodies: 80, seed: 5 })).resolves.toBeUndefined();
});
