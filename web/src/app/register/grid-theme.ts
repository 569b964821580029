import { colorSchemeVariable, themeQuartz } from 'ag-grid-community';

/** The look of lists: the tokens of the product, as the grid takes them. */
export const gridTheme = themeQuartz.withPart(colorSchemeVariable).withParams({
  backgroundColor: 'var(--surface)',
  foregroundColor: 'var(--ink)',
  borderColor: 'var(--rule-soft)',
  headerBackgroundColor: 'var(--ground)',
  headerTextColor: 'var(--quiet)',
  headerFontWeight: 560,
  headerFontSize: 12.5,
  fontFamily: 'inherit',
  fontSize: 13,
  rowHeight: 34,
  headerHeight: 30,
  wrapperBorder: false,
  wrapperBorderRadius: 0,
  rowHoverColor: 'color-mix(in srgb, var(--ground) 60%, var(--surface))',
  selectedRowBackgroundColor: 'var(--moss-tint)',
  headerColumnResizeHandleColor: 'var(--rule)',
  cellHorizontalPadding: 8,
  spacing: 6,
  columnBorder: false,
  focusShadow: 'none',
  accentColor: 'var(--moss)',
});
