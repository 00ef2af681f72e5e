<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Ns;
use HarborPost\Core\Dns\Rdata\Ptr;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Rdata\Txt;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\Serial;

/** A catalog zone, from which secondaries learn which zones they are to copy (RFC 9432 §4). It is asked by no client. */
final readonly class Catalog
{
    private const VERSION = '2';

    /** Records of a catalog are read by name servers alone, and kept by none of them (RFC 9432 §4.1). */
    private const TTL = 0;

    public function __construct(public Name $origin, public Serial $serial)
    {
    }

    public function soa(): Record
    {
        $nobody = Name::parse('invalid.');

        return new Record($this->origin, self::TTL, new Soa($nobody, $nobody, $this->serial, 3600, 600, 0x7FFFFFFE, self::TTL));
    }

    /**
     * @param  iterable<string, Name>  $members  a label of its own for each zone, kept as long as the zone is the same one → its name
     * @return \Generator<int, Record> every record but the SOA
     *
     * @throws Malformed when a name gets too long
     */
    public function records(iterable $members): \Generator
    {
        yield new Record($this->origin, self::TTL, new Ns(Name::parse('invalid.')));
        yield new Record($this->origin->prepend('version'), self::TTL, Txt::ofText(self::VERSION));
        $zones = $this->origin->prepend('zones');
        foreach ($members as $label => $zone) {
            yield new Record($zones->prepend(strtolower($label)), self::TTL, new Ptr($zone));
        }
    }
}
