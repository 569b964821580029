import { heardIn } from '../src/app/editor/reading';

const heard = (markup: string) =>
  heardIn(new DOMParser().parseFromString(markup, 'text/html').body).map(({ kind, words }) => `${kind}: ${words}`);

describe('a page read aloud', () => {
  it('says headings with their level, texts whole, and links where they stand', () =>
    expect(
      heard(
        '<section><h1>Lamps</h1><div><p>One <strong>evening</strong>,<br>then dark.</p><a href="/x">Get a <em>place</em></a></div></section>',
      ),
    ).toEqual(['Heading 1: Lamps', 'Text: One evening,then dark.', 'Link: Get a place']));
  it('breaks a text at a link in it', () =>
    expect(heard('<p>Go to <a href="/x">the timetable</a> today</p>')).toEqual([
      'Text: Go to',
      'Link: the timetable',
      'Text: today',
    ]));
  it('says pictures by their description, and keeps silent about decorative ones', () =>
    expect(heard('<img alt="A boat"><img alt=""><img>')).toEqual([
      'Picture: A boat',
      'Picture: without a description',
    ]));
  it('says how long lists and tables are, and what stands in them', () =>
    expect(
      heard(
        '<ul><li>One</li></ul><ol><li>A</li><li><h3>B</h3></li></ol><table><caption>Prices</caption><tr><th>What</th></tr><tr><td>Boat</td></tr></table>',
      ),
    ).toEqual([
      'List: 1 entry',
      'Text: One',
      'List: 2 entries',
      'Text: A',
      'Heading 3: B',
      'Table: Prices, 2 rows',
      'Text: What',
      'Text: Boat',
    ]));
  it('says fields by their label, and navigation by its name', () =>
    expect(
      heard(
        '<nav aria-label="Links"><a href="/">Home</a></nav><form><label>Your mail<input></label><button>Send</button></form>',
      ),
    ).toEqual(['Navigation: Links', 'Link: Home', 'Field: Your mail', 'Button: Send']));
});
