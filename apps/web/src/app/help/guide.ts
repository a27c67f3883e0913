import { HttpClient } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import MiniSearch, { type SearchResult } from 'minisearch';
import { firstValueFrom } from 'rxjs';

export interface GuideSection {
  /** Its place in the page. */
  readonly id: string;
  readonly heading: string;
  readonly html: string;
  /** The same without marks, as the search reads it. */
  readonly text: string;
}

export interface GuidePage {
  readonly id: string;
  readonly title: string;
  readonly sections: readonly GuideSection[];
}

/** A section that was found. */
export interface GuideHit {
  readonly pageId: string;
  readonly sectionId: string;
  readonly title: string;
  readonly heading: string;
}

/** Reads the guide that ships with the application, once. */
@Injectable({ providedIn: 'root' })
export class GuideReader {
  private readonly http = inject(HttpClient);
  private reading: Promise<Guide> | null = null;

  read(): Promise<Guide> {
    this.reading ??= firstValueFrom(this.http.get<{ pages: GuidePage[] }>('/guide/guide.json')).then(
      ({ pages }) => new Guide(pages),
    );
    // What failed is tried again.
    this.reading.catch(() => (this.reading = null));
    return this.reading;
  }
}

/** The pages of the guide, and a search over their sections. */
export class Guide {
  private readonly index: MiniSearch;

  constructor(readonly pages: readonly GuidePage[]) {
    this.index = new MiniSearch({
      idField: 'key',
      fields: ['heading', 'title', 'text'],
      storeFields: ['pageId', 'sectionId', 'title', 'heading'],
      searchOptions: { prefix: true, fuzzy: 0.15, boost: { heading: 3, title: 2 }, combineWith: 'AND' },
    });
    this.index.addAll(
      pages.flatMap((page) =>
        page.sections.map(({ id, heading, text }) => ({
          key: `${page.id} ${id}`,
          pageId: page.id,
          sectionId: id,
          title: page.title,
          heading,
          text,
        })),
      ),
    );
  }

  page(id: string): GuidePage | null {
    return this.pages.find((page) => page.id === id) ?? null;
  }

  /** Sections that have every word of a question, or one much like it; the best first. */
  find(question: string): GuideHit[] {
    return this.index.search(question).map((result: SearchResult) => result as unknown as GuideHit);
  }
}
