<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Scope;
use App\Models\Server;
use App\Models\TransferKey;
use App\Models\Zone;

/** A key goes, unless a zone still names it. */
final readonly class RemoveKey extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Key', of: TransferKey::class)]
        public string $key,
    ) {
    }

    public function title(): string
    {
        return 'Remove the key '.(TransferKey::query()->find($this->key)?->title() ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('name.keys');
    }

    public function apply(Ledger $ledger): void
    {
        $key = TransferKey::query()->find($this->key) ?? $ledger->refuse('gone', 'The key is not there any more');
        foreach (
            Zone::query()->with('view')->where(fn ($q) => $q->whereNotNull('transfer')->orWhereNotNull('update_from'))->lazy(500) as $zone
        ) {
            if (in_array("key $key->name", [...($zone->transfer ?? []), ...($zone->update_from ?? [])], true)) {
                $ledger->refuse(
                    'key-in-use',
                    "{$zone->line()} still names it",
                    'Take it out of the lists of that zone first.',
                    link: at('name.zone.service', $zone->id),
                );
            }
        }
        $server = Server::query()->where('key_id', $key->id)->first();
        if ($server !== null) {
            $ledger->refuse(
                'key-in-use',
                "$server->name is reached with it",
                'Choose another key there first.',
                link: at('ship.server', $server->id),
            );
        }
        $scope = Scope::query()->with('prefix')->where('name_key_id', $key->id)->first();
        if ($scope !== null) {
            $ledger->refuse(
                'key-in-use',
                "The names of leases of $scope->name are signed with it",
                'Choose another key there first.',
                link: at('lease.scope', $scope->id),
            );
        }
        $key->delete();
    }
}
