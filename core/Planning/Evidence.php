<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

/**
 * What is known of one address from several sides, and what it amounts to. MACs are in canonical text, names absolute without the final
 * dot; times are for the caller, only their order counts here.
 */
final readonly class Evidence
{
    /** @param  list<string>  $dns  names that point to the address */
    public function __construct(
        public bool $planned = false,
        public string $plannedName = '',
        public string $plannedMac = '',
        public array $dns = [],
        /** the name that the address points back to, blank for none */
        public string $ptr = '',
        /** MAC of the reservation, blank for none */
        public string $reserved = '',
        /** MAC of the present lease, blank for none */
        public string $leased = '',
        /** MAC that answered a scan, `?` when it answered without showing one, blank when it did not answer */
        public string $seen = '',
        /** the address was looked for since it was planned */
        public bool $scanned = false,
        /** it answered an earlier scan */
        public bool $seenBefore = false,
        /** it lies in a dynamic range */
        public bool $dynamic = false,
    ) {
    }

    /** @return array{code: string, words: string, agrees: bool} */
    public function verdict(): array
    {
        $macs = array_unique(array_filter([$this->plannedMac, $this->reserved, $this->leased, $this->seen === '?' ? '' : $this->seen]));
        [$code, $words] = match (true) {
            ! $this->planned => $this->unplanned(),
            $this->plannedMac !== '' && $this->seen !== '' && $this->seen !== '?' && $this->seen !== $this->plannedMac => [
                'other-mac',
                "another device answers: $this->seen, planned is $this->plannedMac",
            ],
            $this->plannedMac !== '' && $this->leased !== '' && $this->leased !== $this->plannedMac => [
                'other-mac',
                "leased to $this->leased, planned is $this->plannedMac",
            ],
            $this->reserved !== '' && $this->plannedMac !== '' && $this->reserved !== $this->plannedMac => [
                'other-mac',
                "reserved for $this->reserved, planned is $this->plannedMac",
            ],
            count($macs) > 1 => ['other-mac', 'several MACs: '.implode(', ', $macs)],
            $this->plannedName !== '' && $this->dns !== [] && ! in_array($this->plannedName, $this->dns, true) => [
                'other-name',
                "DNS calls it {$this->dns[0]}, planned is $this->plannedName",
            ],
            $this->dns !== [] && $this->ptr === '' => ['no-ptr', 'no PTR points back'],
            $this->ptr !== '' && $this->dns !== [] && ! in_array($this->ptr, $this->dns, true) => [
                'other-name',
                "points back to $this->ptr, which is not its name",
            ],
            $this->scanned && $this->seen === '' => $this->seenBefore
                ? ['silent', 'silent since it was last seen']
                : ['never-seen', 'planned, and never answered'],
            $this->dynamic && $this->reserved === '' => ['in-dynamic', 'planned inside a dynamic range without a reservation'],
            $this->seen !== '' || $this->leased !== '' => ['agrees', 'in use as planned'],
            default => ['planned', 'planned, nothing seen yet'],
        };

        return ['code' => $code, 'words' => $words, 'agrees' => in_array($code, ['agrees', 'planned', 'free', 'leased'], true)];
    }

    /** @return array{string, string} */
    private function unplanned(): array
    {
        return match (true) {
            $this->leased !== '' => ['leased', 'leased by a server, as the range is for'],
            $this->seen !== '' => ['unknown', 'answers and is not planned'],
            $this->reserved !== '' => ['reserved-only', 'reserved, and no host is planned'],
            $this->dns !== [] => ['name-only', "the name {$this->dns[0]} points here, and no host is planned"],
            $this->ptr !== '' => ['name-only', "points back to $this->ptr, and no host is planned"],
            default => ['free', 'nothing known: free'],
        };
    }
}
