<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\View;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;

/** A view answers other clients, or comes earlier or later among views that hold the same client. */
final readonly class ChangeView extends Act
{
    /** @param  ?list<string>  $clients */
    public function __construct(
        #[Field(Kind::Id, 'View', of: View::class)]
        public string $view,
        #[Field(Kind::Texts, 'Clients', most: 60)]
        public ?array $clients = null,
        #[Field(Kind::Number, 'Position', most: 1000, least: 0)]
        public ?int $position = null,
    ) {
    }

    public function title(): string
    {
        return 'Change the view '.(View::query()->find($this->view)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('name.views');
    }

    public function apply(Ledger $ledger): void
    {
        $view = View::query()->find($this->view) ?? $ledger->refuse('gone', 'The view is not there any more');
        if ($this->clients !== null) {
            $clients = [];
            foreach ($this->clients as $text) {
                try {
                    $clients[] = (string) Prefix::parse((string) $text);
                } catch (NotUnderstood $e) {
                    $ledger->refuse('not-a-prefix', $e->getMessage(), '', null, 'clients', null, $e->suggestion);
                }
            }
            $view->clients = array_values(array_unique($clients));
        }
        if ($this->position !== null && $this->position !== $view->position) {
            $others = View::query()->whereKeyNot($view->id)->orderBy('position')->get()->all();
            array_splice($others, max(0, $this->position - 1), 0, [$view]);
            foreach ($others as $i => $other) {
                $other->position = $i + 1;
                $other->is($view) ?: $other->save();
            }
        }
        $this->shadowed($ledger, $view);
        $view->save();
        $ledger->later('In force on a server with its next shipment');
    }

    /** A client prefix that an earlier view holds whole is never reached. */
    private function shadowed(Ledger $ledger, View $view): void
    {
        foreach (View::query()->whereKeyNot($view->id)->where('position', '<', $view->position)->orderBy('position')->get() as $earlier) {
            foreach ($view->clients as $client) {
                foreach ($earlier->clients as $prefix) {
                    if (Prefix::tryParse($prefix)?->contains(Prefix::parse($client)) === true) {
                        $ledger->warn(
                            'view-shadowed',
                            "$client falls into the view $earlier->name first, by $prefix",
                            'It comes earlier; the first view with a matching prefix answers.',
                            null,
                            'clients',
                        );
                    }
                }
            }
        }
    }
}
