<?php

declare(strict_types=1);

namespace App\Acts\Sign;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\Records;
use App\Domain\Name\SoundPolicy;
use App\Models\Person;
use App\Models\SigningPolicy;
use App\Models\Zone;
use HarborPost\Core\Dns\Dnssec\Algorithm;
use HarborPost\Core\Dns\Dnssec\Denial;

/** A way of signing that zones share is made, or changed for all that have it. */
final readonly class KeepPolicy extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 80)]
        public string $name,
        #[Field(Kind::NewId, 'Id', 'Of a new policy, or of the one that changes')]
        public string $id = '',
        #[Field(Kind::Choice, 'Algorithm', choices: ['13', '15', '8'])]
        public string $algorithm = '13',
        #[Field(Kind::Choice, 'Keys', 'Two: one for the keys, one for the zone; one: for both', choices: ['two', 'one'])]
        public string $keys = 'two',
        #[Field(Kind::Choice, 'Denial', choices: ['nsec', 'nsec3', 'nsec3-opt-out'])]
        public string $denial = 'nsec',
        #[Field(Kind::Line, 'Signatures hold', most: 20, example: '14d')]
        public string $validity = '14d',
        #[Field(Kind::Line, 'Made anew before the end', most: 20, example: '7d')]
        public string $refresh = '7d',
        #[Field(Kind::Line, 'Ends spread over', most: 20, example: '1d')]
        public string $jitter = '1d',
        #[Field(Kind::Line, 'TTL of the keys', most: 20, example: '1h')]
        public string $keyTtl = '1h',
        #[Field(Kind::Line, 'Servers of the zone catch up in', most: 20, example: '1h')]
        public string $propagation = '1h',
        #[Field(Kind::Line, 'TTL of the DS at the parent', most: 20, example: '1d')]
        public string $dsTtl = '1d',
        #[Field(Kind::Line, 'Servers of the parent catch up in', most: 20, example: '1h')]
        public string $parentPropagation = '1h',
        #[Field(Kind::Line, 'Life of the entry key', '0: replaced on request alone', most: 20, example: '0')]
        public string $entryLife = '0',
        #[Field(Kind::Line, 'Life of the key of the zone', '0: replaced on request alone', most: 20, example: '90d')]
        public string $zoneKeyLife = '90d',
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
    ) {
    }

    public function title(): string
    {
        $known = SigningPolicy::query()->find($this->id);

        return $known === null ? "Make the signing policy $this->name" : "Change the signing policy $known->name";
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('name.signing');
    }

    public function apply(Ledger $ledger): void
    {
        $policy = SigningPolicy::query()->lockForUpdate()->find($this->id) ?? new SigningPolicy(['id' => $this->id]);
        if (trim($this->name) === '') {
            $ledger->refuse('name-missing', 'A policy needs a name', field: 'name');
        }
        if (SigningPolicy::query()->where('name', trim($this->name))->whereKeyNot($policy->id)->exists()) {
            $ledger->refuse('name-taken', "\"$this->name\" exists already", field: 'name');
        }
        $policy->fill([
            'name' => trim($this->name), 'algorithm' => Algorithm::tryFrom((int) $this->algorithm)
                ?? $ledger->refuse(
                    'no-algorithm',
                    'Choose an algorithm',
                    standard: 'RFC 8624 §3.1',
                    field: 'algorithm',
                ), 'split' => $this->keys === 'two',
            'denial' => Denial::tryFrom($this->denial)
                ?? $ledger->refuse(
                    'no-denial',
                    'Choose how a zone proves that a name does not exist',
                    standard: 'RFC 4035 §2.3',
                    field: 'denial',
                ), 'description' => $this->description,
        ]);
        foreach (
            [
                'validity' => $this->validity, 'refresh' => $this->refresh, 'jitter' => $this->jitter, 'key_ttl' => $this->keyTtl,
                'propagation' => $this->propagation, 'ds_ttl' => $this->dsTtl, 'parent_propagation' => $this->parentPropagation,
                'entry_life' => $this->entryLife, 'zone_key_life' => $this->zoneKeyLife,
            ] as $column => $text
        ) {
            $policy->$column = SoundPolicy::seconds($ledger, $text, lcfirst(str_replace('_', '', ucwords($column, '_'))));
        }
        SoundPolicy::judge($ledger, $policy);
        $this->reach($ledger, $policy);
        $policy->save();
        $ledger->made['policy'] = $policy->id;
    }

    /** What a change does to the zones that are signed by it. */
    private function reach(Ledger $ledger, SigningPolicy $policy): void
    {
        $zones = $policy->exists ? Zone::query()->where('policy_id', $policy->id)->get() : collect();
        if ($zones->isEmpty()) {
            return;
        }
        if ($policy->isDirty(['algorithm', 'split'])) {
            $ledger->refuse(
                'policy-in-use',
                'Algorithm and count of keys stay while zones are signed by it',
                'Their keys were made by them. Make another policy, and change the algorithm on the page of each zone.',
                'RFC 6781 §4.1.4',
                $policy->isDirty('algorithm') ? 'algorithm' : 'keys',
            );
        }
        if ($policy->isDirty(['denial', 'validity', 'refresh', 'jitter', 'key_ttl'])) {
            $zones->each(static fn (Zone $z) => Records::mark($z));
            $count = $zones->count();
            $ledger->later(
                $count === 1 ? '1 zone is signed anew with its next shipment' : "$count zones are signed anew with their next shipments",
            );
        }
    }
}
