<?php

declare(strict_types=1);

namespace App\Acts\Texts;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Texts\TemplateEngine;
use App\Models\MadeText;
use App\Models\Person;
use App\Models\Role;
use App\Models\Template;
use App\Models\TemplateOf;

/** A template is written or changed. What it makes shows before it is kept, with an object. */
final readonly class KeepTemplate extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 120)]
        public string $name,
        #[Field(Kind::Choice, 'Made of', choices: ['site', 'vlan', 'prefix', 'scope', 'zone', 'device'])]
        public string $of,
        #[Field(Kind::Text, 'Template', 'In the language of Twig', most: 60000, example: '{{ it.name }}')]
        public string $body,
        #[Field(Kind::NewId, 'Id', 'Of a new template, or of the one that changes')]
        public string $id = '',
        #[Field(Kind::Line, 'File name', '{name} is the name of the object', most: 120, blank: true)]
        public string $fileName = '',
        #[Field(Kind::Line, 'Description', most: 255, blank: true)]
        public string $description = '',
    ) {
    }

    public function title(): string
    {
        return (Template::query()->whereKey($this->id)->exists() ? 'Change' : 'Write')." the template $this->name";
    }

    public static function may(Person $person): bool
    {
        return ($person->does(Role::Planner) || $person->does(Role::Operator)) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.text', $this->id);
    }

    public function apply(Ledger $ledger): void
    {
        $name = trim($this->name);
        if ($name === '') {
            $ledger->refuse('no-name', 'A name is missing', field: 'name');
        }
        $twin = Template::query()->where('name', $name)->whereKeyNot($this->id)->first();
        if ($twin !== null) {
            $ledger->refuse('name-taken', "\"$twin->name\" exists already", field: 'name', link: at('directory.text', $twin->id));
        }
        $fault = TemplateEngine::fault($this->body);
        if ($fault !== null) {
            $ledger->refuse('bad-template', ucfirst($fault), 'Nothing was kept.', field: 'body');
        }
        $row = Template::query()->find($this->id) ?? new Template(['id' => $this->id]);
        $of = TemplateOf::from($this->of);
        $kept = $row->exists ? MadeText::query()->where('template_id', $row->id)->count() : 0;
        if ($kept > 0 && $row->of !== $of) {
            $ledger->refuse('has-texts', "$kept texts made of it are kept, each of ".TemplateOf::choices()[$row->of->value],
                'Keep them no longer first.', field: 'of', link: at('directory.text', $row->id));
        }
        // Texts that are kept are made again with the reach of who wrote last.
        $row->fill([
            'name' => $name, 'of' => $of, 'body' => str_replace("\r\n", "\n", $this->body), 'file_name' => trim($this->fileName),
            'description' => trim($this->description), 'keeper_id' => $ledger->person->id ?? $row->keeper_id,
        ])->save();
        $kept === 0 ?: $ledger->later(($kept === 1 ? '1 text that is kept is' : "$kept texts that are kept are")
            .' made again within ten minutes');
    }
}
