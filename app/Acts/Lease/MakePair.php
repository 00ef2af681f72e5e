<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Pairs;
use App\Models\Pair;
use App\Models\PairMode;
use App\Models\Person;
use App\Models\Server;

/** Two DHCP servers become a pair: they lease the same addresses and tell each other. Their key is drawn. */
final readonly class MakePair extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 60)]
        public string $name,
        #[Field(Kind::Id, 'First server', of: Server::class)]
        public string $first,
        #[Field(Kind::Id, 'Second server', of: Server::class)]
        public string $second,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Choice, 'How they share the work', choices: ['balance', 'standby'])]
        public string $mode = 'balance',
        #[Field(Kind::Number, 'Per cent of the first server, or kept for the one that stands by', most: 99, least: 1)]
        public int $percent = 50,
        #[Field(Kind::Line, 'A lease runs ahead of the other by at most', most: 30)]
        public string $lead = '1h',
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
    ) {
    }

    public function title(): string
    {
        return "Make the pair $this->name";
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease.pair', $this->id);
    }

    public function apply(Ledger $ledger): void
    {
        if (trim($this->name) === '') {
            $ledger->refuse('no-name', 'A pair needs a name', field: 'name');
        }
        if (Pair::query()->where('name', $this->name)->exists()) {
            $ledger->refuse('name-taken', "\"$this->name\" exists already", field: 'name');
        }
        $first = Pairs::dhcp($ledger, $this->first, 'first');
        $second = Pairs::dhcp($ledger, $this->second, 'second');
        if ($first->id === $second->id) {
            $ledger->refuse('one-server', 'A pair is of two servers', 'Choose another second one.', null, 'second');
        }
        if ($first->site_id !== null && $first->site_id === $second->site_id) {
            $ledger->warn(
                'same-place',
                "$first->name and $second->name stand at the same site",
                'What takes the site away takes both.',
                null,
                'second',
            );
        }
        $pair = new Pair([
            'id' => $this->id, 'name' => $this->name, 'first_id' => $first->id, 'second_id' => $second->id,
            'mode' => PairMode::from($this->mode), 'percent' => $this->percent, 'lead' => Pairs::lead($ledger, $this->lead),
            'keys' => [Pair::drawKey() + ['made' => $ledger->at->format(DATE_ATOM)]], 'description' => $this->description,
        ]);
        $pair->save();
        $ledger->later(
            "$first->name and $second->name learn of each other with their next shipment; then scopes can be brought into the pair",
        );
    }
}
