import { TestBed } from '@angular/core/testing';
import { plainTextOf, richTextFromJSON, richTextPictures } from '@domatium/core/document';
import { richToHtml } from '@domatium/core/source';
import { Editor } from '@tiptap/core';
import { CharacterCount } from '@tiptap/extensions';
import type { EditorClipboard } from '../src/app/editor/editor-clipboard';
import {
  formatsOf,
  LINE_EXTENSIONS,
  putPicture,
  richExtensions,
  richTextIn,
  toggleFormat,
} from '../src/app/editor/rich-text';
import { TextPaste } from '../src/app/editor/text-paste';
import { NoticeService } from '../src/app/hub/notices';
import { WholePaste } from '../src/app/hub/whole-paste';

const clipboard = (html: string, plain = '', files: File[] = []) =>
  ({ files, getData: (type: string) => (type === 'text/html' ? html : plain) }) as unknown as DataTransfer;
const said = () =>
  TestBed.inject(NoticeService)
    .notices()
    .map(({ text }) => text);

describe('what is pasted into a formatted text', () => {
  const field = { kind: 'rich', label: 'Text', max: null } as const;
  const start = (html = '<p>Before </p>') => {
    const editor = new Editor({ extensions: richExtensions(() => ''), injectCSS: false, content: html });
    editor.commands.focus('end');
    const looked: string[] = [];
    const page = {
      lookAt: (text: string) => looked.push(text) > 0,
      takeFiles: ({ files }: DataTransfer) => files.length > 0,
    } as unknown as EditorClipboard;
    const into = (given: DataTransfer, around: EditorClipboard | null = page) =>
      TestBed.inject(TextPaste).into(editor, field, given, around);
    return { editor, looked, into, text: () => richToHtml(richTextIn(editor)) };
  };
  it('keeps headings, lists and links; what is hidden stays behind, and that is said', () => {
    const { into, text } = start('<p></p>');
    expect(
      into(
        clipboard(
          '<h1>Fares</h1><p>From <b>1 October</b></p><p style="mso-list:l0 level1">· Dogs</p><p hidden>Draft</p><a href="javascript:x()">Go</a>',
        ),
      ),
    ).toBe(true);
    expect(text()).toBe(
      '<h2>Fares</h2>\n<p>From <strong>1 October</strong></p>\n<ul>\n  <li>Dogs</li>\n</ul>\n<p>Go</p>',
    );
    expect(said()).toEqual(['Pasted without 1 hidden part.']);
  });
  it('asks for blocks where it holds a table, and keeps the words of one where there is no page around', () => {
    const table = '<table><tr><td>Adults</td><td>10</td></tr><tr><td>Children</td><td>free</td></tr></table>';
    const { into, looked, text, editor } = start();
    expect(into(clipboard(table))).toBe(true);
    expect([looked, text()]).toEqual([[table], '<p>Before</p>']);
    expect(into(clipboard(table), null)).toBe(true);
    expect(plainTextOf(richTextIn(editor))).toBe('Before Adults 10 Children free');
    expect(said()).toEqual(['A text can’t hold tables, pictures or quotes: their words were pasted.']);
  });
  it('goes on in the line where it is a line, and leaves what was copied here to the text itself', () => {
    const { into, text, editor } = start();
    editor.commands.insertContent({ type: 'text', text: ' ' });
    expect(into(clipboard('<p>and <i>after</i></p>'))).toBe(true);
    expect(text()).toBe('<p>Before and <em>after</em></p>');
    expect(into(clipboard('<p data-pm-slice="1 1 []">x</p>'))).toBe(false);
    expect(into(clipboard('', 'plain'))).toBe(false);
    expect(into(clipboard('', '', [new File([], 'a.png')]))).toBe(true);
  });
  it('a link that is copied from a text keeps where it leads', () => {
    const { editor } = start('<p><a href="page:12#block1">There</a></p>');
    const copy = new Editor({ extensions: richExtensions(() => ''), injectCSS: false, content: editor.getHTML() });
    expect(richTextIn(copy)).toEqual(richTextIn(editor));
    expect(richToHtml(richTextIn(copy))).toBe('<p><a href="page:12#block1">There</a></p>');
  });
});

describe('all that a formatted text can have', () => {
  const words = (text: string, type?: string) => ({ type: 'text', text, ...(type ? { marks: [{ type }] } : {}) });
  const all = richTextFromJSON(
    {
      type: 'doc',
      content: [
        { type: 'heading', attrs: { level: 2, align: 'centre' }, content: [words('Head')] },
        {
          type: 'paragraph',
          attrs: { align: 'end' },
          content: [
            words('m'),
            words('2', 'superscript'),
            {
              type: 'picture',
              attrs: { pictureId: 2, description: 'A "mark"', isDecorative: false, focus: { x: 9, y: 1 } },
            },
            words('n', 'subscript'),
          ],
        },
        { type: 'blockquote', content: [{ type: 'paragraph', content: [words('Said', 'bold')] }] },
      ],
    },
    '',
    [],
  );
  const held = (content: unknown) =>
    new Editor({ extensions: richExtensions((id) => `/p${id}`), injectCSS: false, content: content as never });
  it('is typed on as it was kept, and goes by the clipboard as it is', () => {
    const editor = held(all);
    expect(richTextIn(editor)).toEqual(all);
    expect(editor.getHTML()).toContain('<img src="/p2" alt="A &quot;mark&quot;"');
    expect(richTextIn(held(editor.getHTML()))).toEqual(all);
  });
  it('comes from elsewhere without what only looks like it', () => {
    const text = richTextIn(
      held('<p>a<span class="inset" data-use="{broken"></span><span data-use=\'{"pictureId":"x"}\'>b</span></p>'),
    );
    expect(plainTextOf(text)).toBe('ab');
    expect(richTextPictures(text)).toEqual([]);
  });
  it('is made by the acts of its bar, and taken back by the same', () => {
    const editor = held({ type: 'doc', content: [{ type: 'paragraph', content: [words('Word')] }] });
    const before = richTextIn(editor);
    for (const format of ['centre', 'end', 'quote', 'superscript', 'subscript'] as const) {
      editor.commands.selectAll();
      toggleFormat(editor, format);
      expect([format, formatsOf(editor)[format]]).toEqual([format, true]);
      toggleFormat(editor, format);
      expect(richTextIn(editor)).toEqual(before);
    }
    putPicture(editor, { pictureId: 3 as never, description: '', isDecorative: true });
    expect(richTextPictures(richTextIn(editor)).map(({ pictureId }) => pictureId)).toEqual([3]);
  });
});

describe('what is pasted into a line', () => {
  it('is all there, the cells of a table apart, or nothing, and that is said', () => {
    const editor = new Editor({
      extensions: [...LINE_EXTENSIONS, CharacterCount.configure({ limit: 20 })],
      injectCSS: false,
      content: { type: 'doc', content: [{ type: 'text', text: 'Fares ' }] },
    });
    editor.commands.setTextSelection(6);
    const field = { kind: 'line', label: 'Heading', max: 20 } as const;
    const into = (given: DataTransfer) => TestBed.inject(TextPaste).into(editor, field, given, null);
    expect(into(clipboard('<table><tr><td>10</td><td>EUR</td></tr></table>'))).toBe(true);
    expect(editor.getText()).toBe('Fares 10 EUR');
    expect(into(clipboard('', 'of all boats'))).toBe(true);
    expect(editor.getText()).toBe('Fares 10 EUR');
    expect(said()).toEqual(['Nothing was pasted: that is 12 characters, and Heading has room for 8.']);
    expect(into(clipboard('', '<b>\n'))).toBe(true);
    expect(editor.getText()).toBe('Fares 10 EUR<b>');
  });
  it('of a sheet too: a browser would cut it off', () => {
    const input = Object.assign(document.createElement('input'), { maxLength: 5, value: 'ab' });
    input.setAttribute('aria-label', 'Name');
    input.setSelectionRange(0, 1);
    const paste = (text: string) => {
      const event = Object.assign(new Event('paste', { cancelable: true }), { clipboardData: clipboard('', text) });
      Object.defineProperty(event, 'target', { value: input });
      TestBed.inject(WholePaste).take(event as unknown as ClipboardEvent);
      return event.defaultPrevented;
    };
    expect([paste('1234'), paste('12345')]).toEqual([false, true]);
    expect(said()).toEqual(['Nothing was pasted: that is 5 characters, and Name has room for 4.']);
  });
});
