<?php

declare(strict_types=1);

namespace App\View;

/** One block of a strip: where it stands in percent, how it looks, what it says. */
final readonly class Block
{
    /**
     * @param  'prefix'|'open'|'strata'|'run'  $kind
     */
    public function __construct(
        public string $kind,
        public float $x,
        public float $width,
        /** classes: stage, chosen, drafted, hatched */
        public string $look,
        /** the whole truth, for assistive technology and the pointer */
        public string $title,
        public string $name = '',
        public string $code = '',
        public string $short = '',
        public ?float $level = null,
        public string $figure = '',
        public ?string $href = null,
        public ?string $fill = null,
        public ?string $choose = null,
        public bool $high = false,
        /** first and last address as bytes, of a prefix or of several */
        public string $from = '',
        public string $to = '',
    ) {
    }

    /** The same with one more class: lit or dim. */
    public function with(string $class): self
    {
        return new self(
            $this->kind,
            $this->x,
            $this->width,
            "$this->look $class",
            $class === 'lit' ? "$this->title; found" : $this->title,
            $this->name,
            $this->code,
            $this->short,
            $this->level,
            $this->figure,
            $this->href,
            $this->fill,
            $this->choose,
            $this->high,
            $this->from,
            $this->to,
        );
    }

    public function pct(float $value): string
    {
        return rtrim(rtrim(number_format($value, 5, '.', ''), '0'), '.').'%';
    }
}
