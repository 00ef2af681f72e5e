<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Role;
use App\Models\Space;

/** A set of addresses in which a prefix is unique is opened. */
final readonly class MakeSpace extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 120)]
        public string $name,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Line, 'Route distinguisher', most: 30)]
        public string $routeDistinguisher = '',
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
    ) {
    }

    public function title(): string
    {
        return "Make the space $this->name";
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('plan.space', $this->id);
    }

    public function apply(Ledger $ledger): void
    {
        if (trim($this->name) === '') {
            $ledger->refuse('no-name', 'A name is missing', field: 'name');
        }
        $twin = Space::query()->where('name', trim($this->name))->first();
        if ($twin !== null) {
            $ledger->refuse('name-taken', "\"{$twin->name}\" exists already", field: 'name');
        }
        (
            new Space([
                'id' => $this->id, 'name' => trim($this->name),
                'route_distinguisher' => self::distinguisher($ledger, $this->routeDistinguisher),
                'description' => $this->description,
            ])
        )->save();
    }

    public static function distinguisher(Ledger $ledger, string $text): ?string
    {
        if ($text !== '' && preg_match('/\A(?:\d{1,10}|\d{1,3}(?:\.\d{1,3}){3}):\d{1,10}\z/', $text) !== 1) {
            $ledger->refuse(
                'bad-rd',
                'A route distinguisher is written as 64512:10 or 192.0.2.1:10',
                standard: 'RFC 4364 §4.2',
                field: 'routeDistinguisher',
            );
        }

        return $text === '' ? null : $text;
    }
}
