<?php

declare(strict_types=1);

namespace App\Acts\Texts;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Texts\DataText;
use App\Domain\Texts\TextFault;
use App\Models\DataLayer;
use App\Models\Person;
use App\Models\Site;
use App\Models\TemplateData;

/** Data of one's own for templates, at one layer. */
final readonly class KeepTemplateData extends Act
{
    public function __construct(
        #[Field(Kind::Choice, 'Layer', choices: ['organisation', 'site', 'role', 'tag'])]
        public string $layer,
        #[Field(Kind::Text, 'Data', 'YAML or JSON; blank takes it away', most: 60000, blank: true, example: 'ntp: 10.32.0.1')]
        public string $data,
        #[Field(Kind::Id, 'Site', of: Site::class)]
        public string $site = '',
        #[Field(Kind::Line, 'Role or tag', most: 120, blank: true)]
        public string $word = '',
    ) {
    }

    public function title(): string
    {
        return 'Change data for templates, '.match ($this->layer) {
            'organisation' => 'organisation',
            'site' => Site::query()->find($this->site)->name ?? 'a site',
            default => "$this->layer $this->word",
        };
    }

    public static function may(Person $person): bool
    {
        return KeepTemplate::may($person);
    }

    public function landing(): string
    {
        return at('directory.texts');
    }

    public function apply(Ledger $ledger): void
    {
        $layer = DataLayer::from($this->layer);
        $at = match ($layer) {
            DataLayer::Organisation => '',
            DataLayer::Site => Site::query()->find($this->site)->id ?? $ledger->refuse('no-site', 'Choose a site', field: 'site'),
            default => trim($this->word) !== '' ? trim($this->word)
                : $ledger->refuse('no-name', "Which $this->layer is meant is missing", field: 'word'),
        };
        $row = TemplateData::query()->where('layer', $layer)->where('at', $at)->first();
        try {
            $data = DataText::read($this->data);
        } catch (TextFault $e) {
            $ledger->refuse('bad-data', ucfirst($e->getMessage()), 'Nothing was kept.', 'YAML 1.2, RFC 8259', 'data');
        }
        if ($data === []) {
            $row?->delete();

            return;
        }
        foreach (array_keys($data) as $name) {
            if (preg_match('/pass|secret|token|key$/i', (string) $name) === 1) {
                $ledger->warn(
                    'no-secrets',
                    "\"$name\" reads like a secret",
                    'Everybody who sees texts sees what stands here.',
                    field: 'data',
                );
            }
        }
        $row ??= new TemplateData(['layer' => $layer, 'at' => $at]);
        $row->text = str_replace("\r\n", "\n", $this->data);
        $row->save();
        $ledger->later('Texts that are kept are made again within ten minutes');
    }
}
