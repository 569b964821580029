import { fieldsOf, isUsual } from '../blocks/index.js';
import { brokenIn } from '../blocks/own-html/loads.js';
import {
  listCount,
  valueFromJSON,
  type Block,
  type Button,
  type Fault,
  type FieldDefinition,
  type FieldValue,
  type FieldValues,
  type Moment,
  type PictureUse,
  type Reference,
  type RichText,
} from '../document/index.js';
import { canonical } from '../plan/index.js';
import { escapeText } from '../html/index.js';
import { instantOfWall, wallOf, type Instant } from '../time/index.js';
import { addressToTarget, pictureOf, pictureToHtml, richFromHtml, richToHtml, targetToAddress } from './rich-html.js';
import { wrong, type Wrong } from '../words/index.js';
import { isSilent, wordsOf, type HtmlElement, type HtmlNode } from './tree.js';

/** Something wrong in a block that was written as HTML: at a line that counts from 1. */
export interface SourceFault extends Wrong {
  readonly line: number;
  readonly column: number;
  readonly severity: 'blocks' | 'worth-fixing';
}

/** What a block written as HTML changes of its fields, and what is wrong with it; with a fault that blocks, nothing. */
export interface FromSource {
  readonly changes: readonly { readonly field: string; readonly value: FieldValue }[];
  readonly faults: readonly SourceFault[];
}

/** What does something by itself is own HTML, a block of its own. */
const SILENT_CODE = ['script', 'style', 'iframe', 'object', 'embed'] as const;
const STEP = '  ';
/** `askLabel` as an attribute: `ask-label`. */
const attributeOf = (key: string) => key.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`);
const tagOf = (key: string) => ({ heading: 'h2', title: 'h3' })[key] ?? 'p';
const isCode = (field: FieldDefinition) => field.kind === 'paragraph' && field.isCode === true;
/** What stands as an attribute: one of some values, or a name that is no text. */
const isAttribute = (field: FieldDefinition) =>
  field.kind === 'choice' || (field.kind === 'line' && field.isCode === true);
const usualOf = (field: FieldDefinition) => (field.kind === 'choice' ? (field.options[0]?.value ?? '') : '');
const attributesOf = (fields: readonly FieldDefinition[], values: FieldValues) =>
  fields
    .filter((field) => isAttribute(field) && !isUsual(field.key, values[field.key]))
    .map(({ key }) => ` data-${attributeOf(key)}="${escapeText(values[key] as string)}"`)
    .join('');

/**
 * A block as HTML that people read and write: an element for each field, named by `data-field`, its choices as
 * attributes; links, pictures and what else is referred to keep their identity (`page:12`, `picture:3`). It says what
 * the block holds, not what its layout makes of that. Own HTML is a text of its own and does not stand in it.
 */
export function blockToHtml({ type, fields }: Block): string {
  const definitions = fieldsOf(type).filter(
    (field) => !(field.kind === 'picture' && field.isGround) || fields[field.key],
  );
  return `<section data-block="${type}"${attributesOf(definitions, fields)}>\n${fieldsToHtml(definitions, fields, STEP)}</section>`;
}

const fieldsToHtml = (fields: readonly FieldDefinition[], values: FieldValues, indent: string): string =>
  fields
    .filter((field) => !isAttribute(field) && !isCode(field))
    .map((field) => `${fieldToHtml(field, values[field.key] ?? null, indent)}\n`)
    .join('');

function fieldToHtml(field: FieldDefinition, value: FieldValue, indent: string): string {
  const named = ` data-field="${field.key}"`;
  switch (field.kind) {
    case 'line':
      return `${indent}<${tagOf(field.key)}${named}>${escapeText(value as string)}</${tagOf(field.key)}>`;
    case 'paragraph': {
      const paragraphs = (value as string)
        .split(/\n\s*\n/)
        .map((one) => escapeText(one.trim()).split('\n').join('<br>'));
      return paragraphs.length === 1
        ? `${indent}<div${named}>${paragraphs[0]}</div>`
        : `${indent}<div${named}>\n${paragraphs.map((one) => `${indent}${STEP}<p>${one}</p>\n`).join('')}${indent}</div>`;
    }
    case 'rich':
      return `${indent}<div${named}>\n${richToHtml(value as RichText).replace(/^/gm, indent + STEP)}\n${indent}</div>`;
    case 'picture':
      return `${indent}${pictureToHtml(value as PictureUse | null, named)}`;
    case 'button': {
      const button = value as Button | null;
      const href = button?.target ? targetToAddress(button.target) : '';
      const icon = button?.icon ? ` data-icon="${button.icon}"` : '';
      return `${indent}<a${named} href="${escapeText(href)}"${icon}>${escapeText(button?.label ?? '')}</a>`;
    }
    case 'reference':
      return `${indent}<data${named} value="${(value as Reference | null)?.id ?? ''}"></data>`;
    case 'moment': {
      const moment = value as Moment | null;
      const when = moment ? wallOf(moment.at as Instant, moment.zone) : '';
      return `${indent}<time${named} datetime="${when}" data-zone="${escapeText(moment?.zone ?? '')}"></time>`;
    }
    case 'list': {
      const items = value as readonly FieldValues[];
      const inner = indent + STEP;
      return `${indent}<ol${named}>\n${items.map((item) => `${inner}<li${attributesOf(field.fields, item)}>\n${fieldsToHtml(field.fields, item, inner + STEP)}${inner}</li>\n`).join('')}${indent}</ol>`;
    }
    case 'choice':
      return '';
  }
}

/**
 * What HTML as `blockToHtml` writes it changes of a block. What is missing in it is emptied; what stands in no field is
 * left out and named. `tree` is what a parser made of `source`; lines are looked up in that.
 */
export function changesFromHtml(block: Block, tree: HtmlNode, source: string): FromSource {
  const reader = new FieldReader(source);
  const broken = brokenIn(source);
  if (broken)
    reader.faults.push({
      line: broken.line,
      column: 1,
      severity: 'worth-fixing',
      ...wrong('source-broken', { what: broken.what }),
    });
  for (const tag of SILENT_CODE)
    if (new RegExp(`<${tag}\\b`, 'i').test(source))
      reader.say(`<${tag}`, 'worth-fixing', wrong('source-code-left-out', { tag }));
  const definitions = fieldsOf(block.type);
  const root = firstWith(tree, 'data-block');
  const attributes = root?.attributes ?? {};
  if (!root)
    return {
      changes: [],
      faults: [reader.fault('', 'blocks', wrong('source-without-block'))],
    };
  if (attributes['data-block'] !== block.type)
    reader.say('data-block', 'blocks', wrong('source-other-block', { type: block.type }));
  const values = reader.fieldsOf(definitions, root, block.fields);
  const changes = definitions.flatMap((field) => {
    const [before, after] = [block.fields[field.key] ?? null, values[field.key] ?? null];
    const isSame =
      isCode(field) ||
      (isUsual(field.key, before) && isUsual(field.key, after)) ||
      (isAttribute(field)
        ? before === after
        : canonical(before) === canonical(after) || fieldToHtml(field, before, '') === fieldToHtml(field, after, ''));
    return isSame ? [] : [{ field: field.key, value: after }];
  });
  return { changes: reader.faults.some(({ severity }) => severity === 'blocks') ? [] : changes, faults: reader.faults };
}

function firstWith(node: HtmlNode, attribute: string): HtmlElement | null {
  if (typeof node === 'string') return null;
  if (attribute in node.attributes) return node;
  for (const child of node.children) {
    const found = firstWith(child, attribute);
    if (found) return found;
  }
  return null;
}

/** A node without the fields within it: a tag that was not closed swallows those behind it. */
function alone(node: HtmlNode): HtmlNode {
  if (typeof node === 'string') return node;
  const children = node.children.filter((child) => typeof child === 'string' || !('data-field' in child.attributes));
  return { ...node, children: children.map(alone) };
}

class FieldReader {
  readonly faults: SourceFault[] = [];

  constructor(private readonly source: string) {}

  fault(near: string, severity: SourceFault['severity'], what: Wrong): SourceFault {
    const before = this.source.slice(0, Math.max(0, near ? this.source.indexOf(near) : 0));
    return { line: before.split('\n').length, column: before.length - before.lastIndexOf('\n'), severity, ...what };
  }

  say(near: string, severity: SourceFault['severity'], what: Wrong): void {
    this.faults.push(this.fault(near, severity, what));
  }

  fieldsOf(fields: readonly FieldDefinition[], container: HtmlElement, kept: FieldValues | null): FieldValues {
    const found = new Map<string, HtmlElement>();
    this.collect(fields, container.children, found);
    return Object.fromEntries(
      fields.map((field) => {
        if (isCode(field)) return [field.key, kept?.[field.key] ?? ''];
        const json = isAttribute(field)
          ? (container.attributes[`data-${attributeOf(field.key)}`] ?? usualOf(field))
          : this.jsonOf(field, found.get(field.key) ?? { tag: 'p', attributes: {}, children: [] });
        const faults: Fault[] = [];
        const value =
          field.kind === 'list'
            ? this.listOf(field, json as FieldValues[], faults)
            : valueFromJSON(field, json, '', faults);
        for (const { code, params } of faults)
          this.say(
            isAttribute(field) ? `data-${attributeOf(field.key)}` : `data-field="${field.key}"`,
            'blocks',
            code === 'list-count'
              ? wrong(code, params as never)
              : wrong('in-field', { label: field.label, fault: { code, params } }),
          );
        return [field.key, value];
      }),
    );
  }

  /** The fields of one container, not those of the items of its lists; words between them are named. */
  private collect(
    fields: readonly FieldDefinition[],
    nodes: readonly HtmlNode[],
    found: Map<string, HtmlElement>,
  ): void {
    for (const node of nodes) {
      if (typeof node === 'string') {
        if (node.trim())
          this.say(node.trim(), 'worth-fixing', wrong('source-outside-fields', { text: node.trim().slice(0, 40) }));
        continue;
      }
      const key = node.attributes['data-field'];
      const field = fields.find((one) => one.key === key);
      if (key === undefined) this.collect(fields, node.children, found);
      else if (!field || isAttribute(field))
        this.say(`data-field="${key}"`, 'worth-fixing', wrong('source-unknown-field', { key }));
      else if (found.has(key)) this.say(`data-field="${key}"`, 'worth-fixing', wrong('source-field-twice', { key }));
      else {
        found.set(key, node);
        if (field.kind !== 'list') this.collect(fields, swallowed(node), found);
      }
    }
  }

  private listOf(field: Extract<FieldDefinition, { kind: 'list' }>, items: FieldValues[], faults: Fault[]): FieldValue {
    if (items.length < field.min || items.length > field.max)
      faults.push({ path: '', ...listCount(field, items.length) });
    return items;
  }

  private jsonOf(field: FieldDefinition, element: HtmlElement): unknown {
    const { attributes } = element;
    const own = alone(element) as HtmlElement;
    switch (field.kind) {
      case 'line':
        return wordsOf(own);
      case 'paragraph':
        return linesOf(own);
      case 'rich':
        return richFromHtml(own.children);
      case 'picture':
        return pictureOf(attributes);
      case 'button': {
        const label = wordsOf(own);
        const href = attributes['href'] ?? '';
        const target = href ? addressToTarget(href) : null;
        if (href && !target) this.say(href, 'blocks', wrong('source-link', { href }));
        return label || target ? { label, target, icon: attributes['data-icon'] } : null;
      }
      case 'reference':
        return attributes['value'] ? { id: Number(attributes['value']) } : null;
      case 'moment': {
        const { datetime, 'data-zone': zone = '' } = attributes;
        return datetime ? { at: instantOfWall({ local: datetime, zone }), zone } : null;
      }
      case 'list':
        return element.children
          .filter((child): child is HtmlElement => typeof child !== 'string' && child.tag === 'li')
          .map((item) => this.fieldsOf(field.fields, item, null));
      case 'choice':
        return null;
    }
  }
}

/** Fields that stand within another one's element. */
const swallowed = (node: HtmlElement): HtmlElement[] =>
  node.children.flatMap((child) =>
    typeof child === 'string' ? [] : 'data-field' in child.attributes ? [child] : swallowed(child),
  );

/** Plain text with its lines: paragraphs apart by an empty line, `br` as a new line. */
function linesOf(node: HtmlElement): string {
  const paragraphs: string[] = [];
  let line = '';
  const close = () => {
    const text = line
      .split('\n')
      .map((one) => one.replace(/\s+/g, ' ').trim())
      .join('\n')
      .trim();
    if (text) paragraphs.push(text);
    line = '';
  };
  const read = (child: HtmlNode): void => {
    if (typeof child === 'string') line += child.replace(/\s+/g, ' ');
    else if (child.tag === 'br') line += '\n';
    else if (!isSilent(child)) {
      if (child.tag === 'p' || child.tag === 'div') close();
      child.children.forEach(read);
      if (child.tag === 'p' || child.tag === 'div') close();
    }
  };
  node.children.forEach(read);
  close();
  return paragraphs.join('\n\n');
}
