<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Dns\Dnssec\Algorithm;
use HarborPost\Core\Dns\Dnssec\Denial;
use HarborPost\Core\Dns\Dnssec\Validity;

/**
 * How zones are signed; several share one. All times in seconds.
 *
 * @property string $name
 * @property Algorithm $algorithm
 * @property bool $split  one key for the keys and one for the zone
 * @property Denial $denial
 * @property int $validity
 * @property int $refresh  so long before its end a signature is made anew
 * @property int $jitter
 * @property int $key_ttl
 * @property int $propagation  until every server of a zone has what was shipped, beyond what is measured
 * @property int $ds_ttl  TTL of the DS at the parent
 * @property int $parent_propagation
 * @property int $entry_life  0: replaced on request alone
 * @property int $zone_key_life
 * @property string $description
 */
final class SigningPolicy extends Model
{
    protected $table = 'signing_policies';

    protected $casts = ['algorithm' => Algorithm::class, 'denial' => Denial::class, 'split' => 'boolean'];

    public function validityTimes(): Validity
    {
        return new Validity($this->validity, $this->refresh, $this->jitter);
    }

    public static function noun(): string
    {
        return 'signing policy';
    }

    public function line(): string
    {
        return $this->name;
    }
}
