import type { Response } from 'express';
import type { Paper } from '../../../core/journal/paper.ts';
import { paperText } from '../../../core/journal/paperText.ts';
import { Problem } from '../../http/problem.ts';
import { paperPdf } from './paperPdf.ts';

/** Sends a paper as JSON, as text of 42 columns (`txt`) or as PDF (`pdf`). */
export async function sendPaper(response: Response, paper: Paper, form: string | undefined): Promise<void> {
  if (form === undefined) {
    response.json(paper);
  } else if (form === 'txt') {
    response.type('text/plain; charset=utf-8').send(paperText(paper));
  } else if (form === 'pdf') {
    response.type('application/pdf').send(await paperPdf(paper));
  } else {
    throw new Problem('not-found', 'A paper comes as .txt or .pdf.');
  }
}
