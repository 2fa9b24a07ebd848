import { printPdf, type PrintedPicture } from '@jiko/pdf';
import type { Printed } from '@jiko/core/report';

export interface PrintTask {
  printed: Printed;
  createdAt: Date;
  /** Pictures of the report by their ids; what is not there is named in its place. */
  pictures: ReadonlyMap<string, PrintedPicture>;
}

/** Runs aside: a report of a long job has hundreds of pages. */
export const print = ({ printed, createdAt, pictures }: PrintTask): Promise<Uint8Array> =>
  printPdf(printed, createdAt, (id) => Promise.resolve(pictures.get(id) ?? null));
