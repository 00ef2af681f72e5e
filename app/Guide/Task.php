<?php

declare(strict_types=1);

namespace App\Guide;

/** One section of a guide: what somebody wants to do, and how. */
final readonly class Task
{
    /** @param  list<string>  $pages  patterns of paths that it is about, with * for what differs */
    public function __construct(
        public string $guide,
        public string $of,
        public string $slug,
        public string $title,
        public string $text,
        public array $pages,
    ) {
    }

    public function link(): string
    {
        return at('guide.one', $this->guide)."#$this->slug";
    }

    public function isAbout(string $path): bool
    {
        foreach ($this->pages as $page) {
            if (preg_match('#\A'.str_replace('\*', '[^/]+', preg_quote($page, '#')).'\z#', $path) === 1) {
                return true;
            }
        }

        return false;
    }
}
