import path from 'node:path';
import { expect, type Locator, type Page } from '@playwright/test';
import type { Stereo } from '../support/signals';
import { testDatabase, type TestClient } from '../support/client';
import { wave } from '../support/wave';
import { copyDemo, type DemoCopy } from './demo-copy';

/** A mix to be taken in. */
interface Mix {
  name: string;
  signal: Stereo;
  sampleRate: number;
}

/** What a test does in the application, in an engineer's words. */
export class Desk {
  private demo: DemoCopy | null = null;

  /** With the account's client where tracks are to be made. */
  constructor(
    readonly page: Page,
    private readonly client?: TestClient,
  ) {}

  /** Lets the test listen: everything that goes to the loudspeakers also goes through an analyser. */
  async listen(): Promise<void> {
    await this.page.addInitScript(() => {
      const connect = AudioNode.prototype.connect as (this: AudioNode, ...to: unknown[]) => AudioNode;
      const scope = window as unknown as { ear?: AnalyserNode };
      AudioNode.prototype.connect = function (this: AudioNode, ...to: unknown[]) {
        if (to[0] instanceof AudioDestinationNode && this.context instanceof AudioContext) {
          scope.ear = new AnalyserNode(this.context, { fftSize: 16384, smoothingTimeConstant: 0 });
          connect.call(this, scope.ear);
        }
        return connect.apply(this, to);
      };
    });
  }

  /** Level in dB of what is heard now around a frequency. */
  async heard(frequencyHz: number): Promise<number> {
    return this.page.evaluate((f) => {
      const { ear } = window as unknown as { ear: AnalyserNode };
      const bins = new Float32Array(ear.frequencyBinCount);
      ear.getFloatFrequencyData(bins);
      const bin = Math.round((f / ear.context.sampleRate) * ear.fftSize);
      return Math.max(...bins.subarray(bin - 2, bin + 3));
    }, frequencyHz);
  }

  /** Waits until some seconds more have been played, by the audio's own clock. */
  async played(seconds: number): Promise<void> {
    await this.page.evaluate(async (more) => {
      const { context } = (window as unknown as { ear: AnalyserNode }).ear;
      const until = context.currentTime + more;
      while (context.currentTime < until) await new Promise(requestAnimationFrame);
    }, seconds);
  }

  /** Waits until the analyser's window holds nothing that was heard before now: crossfades included. */
  async filled(): Promise<void> {
    await this.played(16384 / 44100 + 0.2);
  }

  /** Signs in to the demo. */
  async signIn(): Promise<void> {
    await this.page.goto('/sign-in');
    await this.page.getByRole('button', { name: 'Open the demo' }).click();
    await expect(this.page.getByRole('heading', { name: 'Releases' })).toBeVisible();
  }

  /** Makes a release with mixes, through the interface for programs; gives the ids of release and tracks. */
  async newRelease(title: string, mixes: Mix[]): Promise<{ id: string; tracks: string[] }> {
    const id = await this.client!.newRelease(title);
    const tracks: string[] = [];
    for (const { name, signal, sampleRate } of mixes) {
      const { track } = await this.client!.takeIn<{ track: { id: string } }>(id, name, wave(signal, sampleRate));
      tracks.push(track.id);
    }
    return { id, tracks };
  }

  /** Makes a release with one mix and opens its track. */
  async openNewTrack(name: string, signal: Stereo, sampleRate: number): Promise<void> {
    const { tracks } = await this.newRelease(path.parse(name).name, [{ name, signal, sampleRate }]);
    await this.openTrack(tracks[0]);
  }

  async openTrack(id: string): Promise<void> {
    await this.page.goto(`/tracks/${id}`);
    await this.checked();
  }

  /** Opens a page of the application. */
  async open(address: string): Promise<void> {
    await this.page.goto(address);
  }

  /** Puts the demo's release into the account of this test. */
  async haveDemo(): Promise<DemoCopy> {
    if (this.demo) return this.demo;
    const db = testDatabase();
    try {
      return (this.demo = await copyDemo(db, this.client!.id));
    } finally {
      await db.destroy();
    }
  }

  /** Opens the demo's release: where the test has an account of its own at once, else from the list of releases. */
  async openDemoRelease(): Promise<void> {
    if (this.client) return this.open(`/releases/${(await this.haveDemo()).id}`);
    await this.page.goto('/');
    await this.page.getByRole('link', { name: /Slow Orbits/ }).click();
  }

  async openDemoTrack(title: string): Promise<void> {
    if (this.client) return this.openTrack((await this.haveDemo()).tracks.get(title)!);
    await this.openDemoRelease();
    await this.page.getByRole('article', { name: title }).getByRole('link', { name: 'Open' }).click();
    await this.checked();
  }

  /** Waits until the measurement has measured the lane as it stands. */
  async checked(): Promise<void> {
    await expect(this.page.getByTestId('measuring-state')).toHaveText('whole track checked', { timeout: 150_000 });
    await expect(
      this.page
        .getByRole('button', { name: 'Play', exact: true })
        .or(this.page.getByRole('button', { name: 'Pause', exact: true })),
    ).toBeEnabled();
    await expect(this.page.getByRole('article', { name: 'Streaming' }).getByText('LUFS').last()).toBeVisible();
  }

  async saved(): Promise<void> {
    await expect(this.page.getByText('Saved', { exact: true })).toBeVisible();
  }

  async addStage(kind: string, place: number): Promise<void> {
    await this.page.getByRole('button', { name: `Add a stage at position ${place}` }).click();
    await this.page.getByRole('menuitem', { name: new RegExp(`^${kind}`) }).click();
    await this.checked();
  }

  /** The stops of the lane as they read, without what each does to the loudness, which is measured a moment later. */
  async stops(): Promise<string[]> {
    const lane = this.page.getByRole('region', { name: 'Lane' });
    const texts = await lane.locator('button[aria-pressed]').allTextContents();
    return texts.map((text) => text.replace(/[+−]?\d+\.\d LU/, ''));
  }

  stage(kind: string): Locator {
    return this.page.getByRole('region', { name: 'Lane' }).getByRole('button', { name: new RegExp(`^${kind},`) });
  }

  /** Does something with the open stage as a whole. */
  async stageMenu(item: string): Promise<void> {
    await this.page.getByRole('button', { name: 'Stage menu' }).click();
    await this.page.getByRole('menuitem', { name: new RegExp(`^${item}`) }).click();
  }

  /** Loudness, sample peak and true peak into and out of the open stage. */
  levels(): Locator {
    return this.page.getByRole('table', { name: 'Level in and out' });
  }

  async setValue(title: string, value: string): Promise<void> {
    const field = this.page.getByRole('textbox', { name: `${title} value`, exact: true });
    await field.fill(value);
    await field.press('Enter');
  }

  /** Seconds shown by the listening bar. */
  async position(): Promise<number> {
    const [minutes, seconds] = ((await this.page.getByTestId('position').textContent()) ?? '').split(':').map(Number);
    return minutes * 60 + seconds;
  }
}
