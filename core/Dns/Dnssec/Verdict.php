<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

/** How the validation of an answer came out, with the chain that was walked. */
final readonly class Verdict
{
    /**
     * @param  string  $about  the record set at fault, as "name type"; empty when there is none
     * @param  list<ChainLink>  $links  from the anchor down
     */
    public function __construct(public Trust $trust, public ?Fault $fault = null, public string $about = '', public array $links = [])
    {
    }

    /** @param  list<ChainLink>  $links */
    public function with(array $links): self
    {
        return new self($this->trust, $this->fault, $this->about, $links);
    }

    /** The worse of two; the first when they are alike. */
    public function and(self $other): self
    {
        $rank = [Trust::Bogus->value => 3, Trust::Indeterminate->value => 2, Trust::Insecure->value => 1, Trust::Secure->value => 0];

        return $rank[$other->trust->value] > $rank[$this->trust->value] ? $other : $this;
    }

    public function words(): string
    {
        $why = $this->fault === null ? $this->trust->words() : $this->fault->words();

        return $this->trust->value.': '.($this->about === '' ? $why : "$this->about, $why");
    }
}
