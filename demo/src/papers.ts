import Document from 'pdfkit';

/** A document that pages lead to: one sheet of paper with words on it. */
export interface DemoPaper {
  readonly key: string;
  readonly name: string;
  readonly heading: string;
  readonly lines: readonly string[];
}

export const papers: readonly DemoPaper[] = [
  {
    key: 'hall-plan',
    name: 'Plan of the hall.pdf',
    heading: 'Tide Hall, plan of the hall',
    lines: [
      'Floor: 42 by 18 metres, oak, even to the slipway doors.',
      'Standing: 600. Seated in rows: 380. At tables: 260.',
      'Doors to the water: 4.2 metres wide, 5 metres high.',
      'Power: 125 amperes at the north wall, 63 at the stage.',
      'Step-free from the quay to the floor; hearing loop in the first twelve rows.',
    ],
  },
  {
    key: 'class-form',
    name: 'Booking form for classes.pdf',
    heading: 'A day on the slipway, booking form',
    lines: [
      'School: ______________________   Class: ____________',
      'How many come: ______   of these with a wheelchair: ______',
      'Day one hopes for: __________   or: __________',
      'Bring it along, or post it to Tide Hall, Slipway 1, Marrowick.',
    ],
  },
];

/** The sheet as PDF; the same bytes every time. */
export function writePaper({ heading, lines }: DemoPaper): Promise<Buffer> {
  return new Promise((done, fail) => {
    const sheet = new Document({ size: 'A4', margin: 64, info: { Title: heading, CreationDate: new Date(0) } });
    const pieces: Buffer[] = [];
    sheet.on('data', (piece: Buffer) => pieces.push(piece));
    sheet.on('end', () => done(Buffer.concat(pieces)));
    sheet.on('error', fail);
    sheet.font('Helvetica-Bold').fontSize(20).text(heading).moveDown();
    sheet.font('Helvetica').fontSize(12);
    for (const line of lines) sheet.text(line, { lineGap: 6 });
    sheet.end();
  });
}
