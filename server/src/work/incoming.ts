import { randomUUID } from "node:crypto";
import { createWriteStream } from "node:fs";
import { rm } from "node:fs/promises";
import { join } from "node:path";
import { Transform } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Request } from "express";
import { Problem } from "../problem";
import type { Body } from "./jobs";
import { LARGE_BYTES } from "./WorkPool";

/**
 * Takes in a body and uses it. A large one goes to a file of its own in `folder` and not to memory: several may come
 * at once. The file is deleted when `use` is done.
 *
 * @throws Problem 413 when it has more than `most` bytes; `what` is named in the sentence.
 */
export async function withBody<T>(
  request: Request,
  { folder, most, what }: { folder: string; most: number; what: string },
  use: (body: Body, bytes: number) => Promise<T>,
): Promise<T> {
  const tooLarge = () =>
    new Problem(413, "Too large", `${what} has more than ${mb(most)}, which is the most that is read`);
  const announced = Number(request.get("Content-Length") ?? 0);
  if (announced > most) throw tooLarge();
  let bytes = 0;
  const counting = new Transform({
    transform(chunk: Buffer, _, done) {
      bytes += chunk.length;
      done(bytes > most ? tooLarge() : null, chunk);
    },
  });
  if (announced > LARGE_BYTES || request.get("Transfer-Encoding") !== undefined) {
    const file = join(folder, `incoming-${randomUUID()}`);
    try {
      await pipeline(request, counting, createWriteStream(file));
      return await use({ file }, bytes);
    } finally {
      await rm(file, { force: true });
    }
  }
  const chunks: Buffer[] = [];
  await pipeline(request, counting, async (source: AsyncIterable<Buffer>) => {
    for await (const chunk of source) chunks.push(chunk);
  });
  return use({ bytes: Buffer.concat(chunks) }, bytes);
}

const mb = (bytes: number) => `${Math.round(bytes / 1_048_576)} MB`;
