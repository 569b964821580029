import { Directive, ElementRef, inject, type AfterViewInit } from '@angular/core';

/** Takes the focus to its first field or button once it is there: what opened it is gone on with by keys. */
@Directive({ selector: '[dmFocusFirst]' })
export class FocusFirst implements AfterViewInit {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  ngAfterViewInit(): void {
    const first = (what: string) => this.host.nativeElement.querySelector<HTMLElement>(what);
    (first('input,select,textarea') ?? first('button'))?.focus();
  }
}
