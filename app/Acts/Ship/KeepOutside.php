<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Outside;
use App\Models\Prefix;
use App\Models\Space;

/** A system outside that holds pools is written down, or what is written of it changes. */
final readonly class KeepOutside extends OnOutside
{
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 80)]
        public string $name,
        #[Field(Kind::Line, 'Address', 'https://host:port', most: 255, example: 'https://pools.example')]
        public string $address,
        #[Field(Kind::Id, 'Space', of: Space::class)]
        public string $space,
        #[Field(Kind::Secret, 'Token', 'Blank keeps the one that is there', most: 500)]
        public string $token = '',
        #[Field(Kind::Id, 'Under', 'What lies in this prefix; none: the whole space', of: Prefix::class)]
        public string $under = '',
        #[Field(Kind::NewId, 'Id', 'Of a new one, or of the one that changes')]
        public string $id = '',
    ) {
    }

    public function title(): string
    {
        return (Outside::query()->whereKey($this->id)->exists() ? 'Change ' : 'Write down ')."the outside system $this->name";
    }

    public function landing(): string
    {
        return at('ship.outside.one', $this->id);
    }

    public function apply(Ledger $ledger): void
    {
        if (trim($this->name) === '') {
            $ledger->refuse('no-name', 'It needs a name', field: 'name');
        }
        if (Outside::query()->where('name', trim($this->name))->whereKeyNot($this->id)->exists()) {
            $ledger->refuse('name-taken', "\"$this->name\" is there already", field: 'name');
        }
        $parts = parse_url(trim($this->address));
        $good = is_array($parts) && in_array($parts['scheme'] ?? '', ['http', 'https'], true) && ($parts['host'] ?? '') !== ''
            && ! isset($parts['user']) && ! isset($parts['pass']) && ! isset($parts['query'])
            && preg_match('/[\x00-\x20\x7f]/', trim($this->address)) !== 1;
        if (! $good) {
            $ledger->refuse('bad-address', "\"$this->address\" is no address that can be called", 'Write https://host:port.',
                field: 'address');
        }
        if (($parts['scheme'] ?? '') === 'http') {
            $ledger->warn('no-tls', 'Without TLS its token and its answers can be read on the way', field: 'address');
        }
        $under = $this->under === '' ? null : Prefix::query()->find($this->under);
        if ($under !== null && ($under->space_id !== $this->space || ! $under->groups)) {
            $ledger->refuse('bad-under', "{$under->line()} is no supernet of that space", field: 'under');
        }
        $row = Outside::query()->find($this->id) ?? new Outside(['id' => $this->id]);
        $row->fill(['name' => trim($this->name), 'address' => rtrim(trim($this->address), '/'), 'space_id' => $this->space,
            'under_id' => $under?->id]);
        $this->token === '' ?: $row->token = $this->token;
        $row->save();
    }
}
