// The whole path in the real interface, from a line to a proven print.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { docOf, expect, go, recordFor, rolls, switchOnLines, test } from './support/studio';

const run = (command: string, ...args: string[]) =>
  execFileSync(command, args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] });
const ffmpegText = (file: string) =>
  execFileSync('sh', ['-c', `ffmpeg -hide_banner -nostats -i "${file}" -af ebur128=peak=true -f null - 2>&1`], {
    encoding: 'utf8',
  }).split('Summary:')[1]!;

test('from a line to a proven print', async ({ page, server }) => {
  test.setTimeout(240_000);
  const trouble: string[] = [];
  // What was answered says more than that it was.
  page.on('console', (m) => {
    if (m.type() === 'error' && !m.text().startsWith('Failed to load resource')) trouble.push(m.text());
  });
  page.on('response', (r) => {
    if (r.status() < 400) return;
    void r.text().then((text) => trouble.push(`${r.status()} ${r.request().method()} ${r.url()}: ${text}`));
  });
  page.on('pageerror', (e) => trouble.push(e.message));

  await test.step('the demo opens and plays: the reference meter moves', async () => {
    await page.goto(server.url);
    await page.waitForURL('**/s/lamp/brief');
    await expect(page.getByText('The Lamp at Sallow Point')).toBeVisible();
    await expect(page.getByText('SP_REF_51_100000_v01.wav')).toBeVisible();
    await page.getByRole('button', { name: 'Play' }).click();
    await rolls(page, 'playing');
    await expect
      .poll(async () => Number(await page.getByRole('meter', { name: 'Reference C' }).getAttribute('aria-valuenow')))
      .toBeGreaterThan(-40);
    await expect(page.getByTestId('reference-loudness')).toHaveText(/^-\d/);
    await page.getByRole('button', { name: 'Stop' }).click();
    await rolls(page, 'stopped');
  });

  await test.step('a line is patched and its chain set', async () => {
    await switchOnLines(page);
    await page.getByLabel('Patch by typing').fill('2 > Apprentice');
    await page.getByRole('button', { name: 'Patch' }).click();
    await page.getByLabel('Patch by typing').fill('3 > Pilot');
    await page.getByRole('button', { name: 'Patch' }).click();
    await page.locator('button[data-line="standin-eight/3"]').click();
    await expect(page.getByText('→ Pilot')).toBeVisible();
    await page.locator('[data-stage=lowCut] button[aria-expanded]').click();
    await expect(page.getByRole('img', { name: /response of Low cut/ })).toBeVisible();
    const field = page.getByRole('spinbutton', { name: 'Low cut Frequency' });
    await field.focus();
    await page.keyboard.press('Enter');
    await page.keyboard.type('95');
    await page.keyboard.press('Enter');
    await expect(page.locator('[data-stage=lowCut]')).toContainText('95 Hz');
    await page.getByRole('switch', { name: 'Compressor on' }).click();
    await expect(page.getByRole('switch', { name: 'Compressor on' })).toHaveAttribute('aria-checked', 'true');
  });

  await test.step('five seconds are recorded from the stand-in', async () => {
    await go(page, 'floor');
    await page.getByLabel('Locate').fill('10:00:30:00');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Arm Pilot', exact: true }).click();
    await expect(page.getByText('signal', { exact: true })).toBeVisible();
    await recordFor(page, 5);
    await page.getByRole('button', { name: 'Stop recording' }).click();
    await page.getByRole('radio', { name: 'Takes' }).click();
    await expect(page.locator('[data-take="1"]')).toContainText('low cut, gate, compressor');
    await page.getByRole('button', { name: 'Arm Pilot', exact: true }).click();
  });

  const media = path.join(server.data, 'sessions/lamp/media');
  await test.step('the take is a Broadcast WAV that other programs read, with its dry copy', async () => {
    const takes = readdirSync(media).filter((f) => /Pilot_T01(_dry)?\.wav$/.test(f));
    expect(takes).toHaveLength(2);
    for (const take of takes) {
      const facts = JSON.parse(
        run('ffprobe', '-v', 'error', '-of', 'json', '-show_streams', '-show_format', path.join(media, take)),
      );
      expect(facts.streams[0]).toMatchObject({ codec_name: 'pcm_s24le', sample_rate: '48000', channels: 1 });
      expect(Number(facts.streams[0].duration)).toBeGreaterThan(5);
      expect(facts.format.tags.time_reference).toBe(String((10 * 3600 + 30) * 48000));
      expect(facts.format.tags.comment).toContain('Pilot, take 1');
    }
    const level = (file: string) =>
      Number(
        /RMS\s+amplitude:\s+([\d.]+)/.exec(
          execFileSync('sh', ['-c', `sox "${path.join(media, file)}" -n stat 2>&1`], { encoding: 'utf8' }),
        )![1],
      );
    const [processed, dry] = [takes.find((t) => !t.includes('dry'))!, takes.find((t) => t.includes('dry'))!].map(
      level,
    ) as [number, number];
    expect(dry).toBeGreaterThan(0.01);
    expect(Math.abs(processed - dry)).toBeGreaterThan(0.0001);
  });

  await test.step('it is played back', async () => {
    await page.getByRole('button', { name: 'Play' }).click();
    await rolls(page, 'playing');
    await expect
      .poll(async () => Number(await page.getByRole('meter', { name: 'Level of Pilot' }).getAttribute('aria-valuenow')))
      .toBeGreaterThan(-40);
    await page.getByRole('button', { name: 'Stop' }).click();
  });

  await test.step('undo takes the take from the track, not the file; redo brings it back', async () => {
    await page
      .locator('[data-row=pilot]')
      .getByRole('button', { name: /^Pilot/ })
      .click();
    await expect(page.locator('[data-take="1"]')).toHaveCount(1);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.locator('[data-take="1"]')).toHaveCount(0);
    expect(readdirSync(media).filter((f) => /Pilot_T01(_dry)?\.wav$/.test(f))).toHaveLength(2);
    await page.getByRole('button', { name: 'Redo' }).click();
    await expect(page.locator('[data-take="1"]')).toHaveCount(1);
  });

  await test.step('a destination is changed', async () => {
    await go(page, 'flow');
    await page.getByRole('button', { name: 'Track Bell buoy' }).click();
    await page.getByRole('combobox', { name: 'Destination of Bell buoy' }).click();
    await page.getByRole('option', { name: 'Ambience' }).click();
    await expect(page.getByRole('combobox', { name: 'Destination of Bell buoy' })).toContainText('Ambience');
  });

  await test.step('all files are printed in one pass and proven', async () => {
    await go(page, 'print');
    await page.getByRole('button', { name: 'Print 7 files' }).click();
    await expect(page.getByRole('progressbar')).toBeVisible();
    await expect(page.getByTestId('sum')).toBeVisible({ timeout: 120_000 });
    const difference = Number(await page.locator('[data-difference]').getAttribute('data-difference'));
    expect(difference).toBeLessThanOrEqual(-120);
    await expect(page.getByText('They add up to the reference.')).toBeVisible();
    await expect(page.locator('[data-testid=loudness-chart] .plotly')).toBeVisible();
  });

  await test.step('the archive holds what the proof says, by other programs as well', async () => {
    await page.getByLabel('For whom it is made').fill('the harbour museum');
    await page.getByLabel('For whom it is made').press('Enter');
    await expect.poll(async () => (await docOf(page, server.url)).about?.client).toBe('the harbour museum');
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('archive').click()]);
    const dir = mkdtempSync(path.join(tmpdir(), 'wide-room-print-'));
    await download.saveAs(path.join(dir, 'print.zip'));
    run('unzip', '-q', path.join(dir, 'print.zip'), '-d', dir);
    execFileSync('sha256sum', ['--check', '--quiet', 'SHA256SUMS'], { cwd: dir });
    const proof = JSON.parse(readFileSync(path.join(dir, 'proof.json'), 'utf8'));
    expect(proof.files).toHaveLength(7);
    for (const { file, facts } of proof.files) {
      const stream = JSON.parse(
        run('ffprobe', '-v', 'error', '-of', 'json', '-show_streams', '-show_format', path.join(dir, file)),
      );
      expect(stream.streams[0]).toMatchObject({
        codec_name: 'pcm_s24le',
        sample_rate: '48000',
        duration: '90.000000',
        channels: facts.channels,
      });
      expect(stream.format.tags.time_reference).toBe(String(36_000 * 48000));
    }
    const reference = proof.files[0];
    // The report says the same on the page, on paper and in the table.
    const figures = [reference.facts.integrated, reference.facts.truePeak].map((v: number) => v.toFixed(1));
    const paper = run('pdftotext', '-layout', path.join(dir, 'report.pdf'), '-');
    const told = [
      readFileSync(path.join(dir, 'report.html'), 'utf8'),
      readFileSync(path.join(dir, 'report.csv'), 'utf8'),
      paper,
    ];
    for (const one of told) for (const figure of [...figures, reference.file]) expect(one).toContain(figure);
    expect(paper).toContain('for the harbour museum');
    expect(paper).toContain(`${proof.sum.difference.toFixed(1)} dB`);
    await page.getByRole('button', { name: 'Report' }).click();
    const [read] = await Promise.all([
      page.context().waitForEvent('page'),
      page.getByRole('menuitem', { name: /Read it/ }).click(),
    ]);
    await expect(read.getByRole('heading', { level: 1 })).toHaveText('The Lamp at Sallow Point');
    await expect(read.getByRole('img', { name: 'Loudness of the reference' })).toBeVisible();
    await read.close();
    // Anyone proves it again.
    await page.getByLabel('Archive to prove again').setInputFiles(path.join(dir, 'print.zip'));
    await expect(page.getByRole('dialog', { name: 'All of it is as it was proven' })).toBeVisible({ timeout: 60_000 });
    await expect(page.getByRole('list', { name: 'What was looked at again' }).getByRole('listitem')).toHaveCount(15);
    await page.keyboard.press('Escape');
    const text = ffmpegText(path.join(dir, reference.file));
    expect(Math.abs(Number(/I:\s+(-?[\d.]+) LUFS/.exec(text)![1]) - reference.facts.integrated)).toBeLessThanOrEqual(
      0.1,
    );
    expect(Math.abs(Number(/Peak:\s+(-?[\d.]+) dBFS/.exec(text)![1]) - reference.facts.truePeak)).toBeLessThanOrEqual(
      0.3,
    );
    expect(
      run('mediainfo', '--Output=Audio;%BitDepth%/%Channels%/%SamplingRate%', path.join(dir, reference.file)).trim(),
    ).toBe('24/6/48000');
    // The stems summed by sox against the reference.
    const stems = proof.files.slice(2).flatMap((f: { file: string }) => ['-v', '1', path.join(dir, f.file)]);
    const difference = execFileSync(
      'sh',
      [
        '-c',
        `sox -m ${stems.map((s: string) => `"${s}"`).join(' ')} -v -1 "${path.join(dir, reference.file)}" -n stats 2>&1 | grep "Pk lev"`,
      ],
      { encoding: 'utf8' },
    );
    expect(Number(/Pk lev dB\s+(\S+)/.exec(difference)![1])).toBeLessThanOrEqual(-120);
    // The command line has the same figures for the same file.
    const [again] = JSON.parse(
      run('node', 'dist/workers/cli.mjs', 'measure', path.join(dir, reference.file), '--json'),
    );
    expect(again.integrated).toBeCloseTo(reference.facts.integrated, 2);
    expect(again.truePeak).toBeCloseTo(reference.facts.truePeak, 2);
  });

  expect(trouble).toEqual([]);
});
