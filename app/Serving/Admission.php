<?php

declare(strict_types=1);

namespace App\Serving;

use App\Links\Names\OwnKey;
use App\Models\Zone;
use HarborPost\Core\Dns\Wire\Signature;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;

/** Who asks for a zone, and whether it may have it. */
final readonly class Admission
{
    /** @param  ?Address  $client  for whom it asks (RFC 7871), by which we ourselves say which view is meant */
    public function __construct(private Signature $signature, private Address $source, private ?Address $client = null)
    {
    }

    /** We ask ourselves, to see what is handed out. */
    public function isOwn(): bool
    {
        return $this->signature->isGood() && $this->signature->keyName === OwnKey::NAME;
    }

    public function admits(Zone $zone): bool
    {
        if ($this->isOwn()) {
            return $this->client === null || $this->isFor($zone);
        }
        foreach ($zone->transferList() as $entry) {
            $good = str_starts_with($entry, 'key ')
                ? $this->signature->isGood() && strtolower(substr($entry, 4)) === $this->signature->keyName
                : Prefix::tryParse($entry)?->contains($this->source) === true;
            if ($good) {
                return true;
            }
        }

        return false;
    }

    /** In words, for the log. */
    public function who(): string
    {
        return $this->signature->isGood() ? "$this->source with the key ".rtrim($this->signature->keyName, '.') : (string) $this->source;
    }

    private function isFor(Zone $zone): bool
    {
        foreach ($zone->view->clients as $prefix) {
            if ($this->client !== null && Prefix::tryParse($prefix)?->contains($this->client) === true) {
                return true;
            }
        }

        return false;
    }
}
