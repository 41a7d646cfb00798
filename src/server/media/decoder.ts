import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { Refused } from '../http';

const run = promisify(execFile);

/** Files that only hold their own sound: none that would lead to other files, or out to the network. */
const FORMS =
  'aac,ac3,eac3,adts,aiff,ape,asf,au,avi,caf,dsf,flac,flv,gsm,matroska,mov,mp3,mpeg,mpegts,ogg,tak,tta,w64,wav,wv';
const ONLY_FILES = ['-protocol_whitelist', 'file', '-format_whitelist', FORMS];
/** Longer than a day is no recording but a mistake, or meant to fill the disk (s). */
const LONGEST = 86_400;

interface ProbedStream {
  codec_type?: string;
  codec_name?: string;
  sample_rate?: string;
  sample_fmt?: string;
  channels?: number;
  avg_frame_rate?: string;
  tags?: Record<string, string>;
}

interface Probed {
  streams?: ProbedStream[];
  format?: { duration?: string; tags?: Record<string, string> };
}

/** What a tool of the machine prints; null: it is not installed. Throws Error with what it said when it fails. */
async function tool(name: 'ffmpeg' | 'ffprobe', args: string[]): Promise<string | null> {
  try {
    return (await run(name, args, { maxBuffer: 1 << 22, windowsHide: true })).stdout;
  } catch (error) {
    const { code, stderr } = error as { code?: unknown; stderr?: string };
    if (code === 'ENOENT') return null;
    throw new Error(stderr?.trim().split('\n').at(-1) || `${name} failed`);
  }
}

const hasFfmpeg = async (): Promise<boolean> => (await tool('ffmpeg', ['-version']).catch(() => '')) !== null;

/** What a file says of its streams; null: there is no ffprobe, or it makes nothing of the file. */
export async function probe(file: string): Promise<Probed | null> {
  const args = ['-v', 'error', ...ONLY_FILES, '-of', 'json', '-show_streams', '-show_format', file];
  const said = await tool('ffprobe', args).catch(() => null);
  return said === null ? null : (JSON.parse(said) as Probed);
}

/**
 * Writes the first sound of a file, in whatever form ffmpeg reads, as a WAV at its own rate, and says in a sentence
 * where it came from. Throws Refused, with what to do, when ffmpeg is not installed or makes nothing of the file.
 */
export async function decodeOther(from: string, to: string, name: string): Promise<string> {
  const probed = await probe(from);
  if (probed === null && !(await hasFfmpeg()))
    throw new Refused(
      422,
      `${name} is no WAV, AIFF or FLAC file. Other forms, such as MP3 or AAC, are read where ffmpeg is installed, and on the server's machine it is not. Install it (on Debian: apt install ffmpeg), or convert the file to WAV. It was not taken in.`,
    );
  const sound = probed?.streams?.find((s) => s.codec_type === 'audio');
  if (!sound) throw new Refused(422, `${name} holds no sound that could be read. It was not taken in.`);
  if (Number(probed?.format?.duration ?? 0) > LONGEST)
    throw new Refused(422, `${name} says that it is longer than a day. It was not taken in.`);
  // What lossy decoders give is float; what was stored in 16 bits stays in them.
  const codec = /^(s16|u8)p?$/.test(sound.sample_fmt ?? '') ? 'pcm_s16le' : 'pcm_f32le';
  const args = ['-v', 'error', '-nostdin', ...ONLY_FILES, '-i', from, '-map', '0:a:0', '-vn', '-c:a', codec];
  try {
    await tool('ffmpeg', [...args, '-rf64', 'auto', '-f', 'wav', '-y', to]);
  } catch (error) {
    throw new Refused(422, `${name} could not be decoded: ${(error as Error).message}. It was not taken in.`);
  }
  return `Decoded from ${(sound.codec_name ?? 'another form').toUpperCase()} by ffmpeg; what that form had lost stays lost.`;
}

export interface PictureFacts {
  /** Frames a second, as "25/1"; null: not known. */
  rate: string | null;
  /** Timecode of its first frame, where the file says one. */
  timecode: string | null;
  hasSound: boolean;
}

/** What a picture says of itself; null where there is no ffprobe. */
export async function pictureFacts(file: string): Promise<PictureFacts | null> {
  const probed = await probe(file);
  if (!probed) return null;
  const streams = probed.streams ?? [];
  const video = streams.find((s) => s.codec_type === 'video');
  const [num = 0, den = 0] = (video?.avg_frame_rate ?? '').split('/').map(Number);
  const timecode = [...streams.map((s) => s.tags?.timecode), probed.format?.tags?.timecode].find(Boolean);
  return {
    rate: num > 0 && den > 0 ? `${num}/${den}` : null,
    timecode: timecode ?? null,
    hasSound: streams.some((s) => s.codec_type === 'audio'),
  };
}
