<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Hook;
use App\Models\Nouns;
use App\Models\Person;
use App\Models\Role;
use App\Models\Site;

/** A system outside is told of what happens; the secret by which it knows us is shown once. */
final readonly class MakeHook extends Act
{
    /** @param  list<string>  $kinds */
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 80)]
        public string $name,
        #[Field(Kind::Line, 'Address', 'https://host/path', most: 500)]
        public string $address,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Texts, 'Kinds of objects', 'Of all kinds when none is chosen', most: 40)]
        public array $kinds = [],
        #[Field(Kind::Id, 'Site', 'With all sites in it; of everything when none is chosen', of: Site::class)]
        public string $site = '',
        #[Field(Kind::Flag, 'Inner', 'It may lead into networks of your own, and need no TLS there')]
        public bool $inner = false,
    ) {
    }

    public function title(): string
    {
        return "Make the hook $this->name";
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Steward) && ! $person->isBound();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function landing(): string
    {
        return at('ship.hooks');
    }

    public function apply(Ledger $ledger): void
    {
        if ($this->name === '') {
            $ledger->refuse('no-name', 'A hook needs a name', field: 'name');
        }
        $parts = parse_url($this->address);
        $scheme = is_array($parts) ? ($parts['scheme'] ?? '') : '';
        if (
            ! is_array($parts)
                || ($parts['host'] ?? '') === ''
                || ! in_array($scheme, $this->inner ? ['https', 'http'] : ['https'], true)
        ) {
            $ledger->refuse(
                'bad-address',
                "\"$this->address\" is no address that can be called",
                'Write https://host/path; plain http is for networks of your own.',
                null,
                'address',
            );
        }
        foreach ($this->kinds as $kind) {
            Nouns::classOf($kind) !== null || $ledger->refuse('no-such-kind', "\"$kind\" is no kind of object", field: 'kinds');
        }
        if ($this->inner) {
            $ledger->warn('inner-hook', 'It may lead into networks of your own', 'Whoever may write hooks could reach what stands there.');
        }
        $secret = bin2hex(random_bytes(24));
        (
            new Hook([
                'id' => $this->id, 'name' => $this->name, 'address' => $this->address, 'secret' => $secret, 'inner' => $this->inner,
                'kinds' => $this->kinds === [] ? null : array_values(array_unique($this->kinds)), 'active' => true,
                'site_id' => $this->site === '' ? null : $this->site,
            ])
        )->save();
        $ledger->made['once'] = $secret;
        $ledger->made['once-words'] = 'The secret by which the receiver checks signatures is';
    }
}
