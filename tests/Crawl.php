<?php

declare(strict_types=1);

namespace Tests;

use App\Acts\Engine\Inputs;
use App\Acts\Registry;
use App\Models\Person;
use Illuminate\Support\Facades\Route;

/**
 * Walks from the bridge over every kind of page that a person is led to: each link has to lead somewhere, and each form has to send only
 * what its act asks for, under the button that sends it.
 */
final class Crawl
{
    /** Pages of one kind that are opened. */
    private const OF_A_KIND = 3;

    /** Fields of a form that are no input of the act. */
    private const OF_FORM = ['_token', '_form', 'then', 'seen', 'over', 'shown', 'reason', 'sure', 'fit-place', 'another', 'stay', 'all'];

    /** @var array<string, int> kind of a page → how many were opened */
    private array $opened = [];

    /** @var list<string> what leads nowhere, and what no act asks for */
    public array $faults = [];

    public function __construct(private readonly TestCase $test, Person $person)
    {
        $test->actingAs($person);
        $waits = ['/bridge'];
        $seen = ['/bridge' => ''];
        while (($page = array_shift($waits)) !== null) {
            foreach ($this->open($page, $seen[$page]) as $link) {
                if (! isset($seen[$link])) {
                    $seen[$link] = $page;
                    $waits[] = $link;
                }
            }
        }
    }

    /** @return list<string> kinds of pages that were opened */
    public function kinds(): array
    {
        return array_keys($this->opened);
    }

    /** @return list<string> where it leads */
    private function open(string $page, string $from): array
    {
        $kind = self::kind($page);
        if ($kind === null || ($this->opened[$kind] ?? 0) >= self::OF_A_KIND) {
            return [];
        }
        $this->opened[$kind] = ($this->opened[$kind] ?? 0) + 1;
        $answer = $this->test->get($page);
        // A guide is written for one kind of work, and read by others too.
        if ($answer->getStatusCode() === 403 && str_starts_with($from, '/guide/')) {
            return [];
        }
        if ($answer->getStatusCode() >= 400) {
            $this->faults[] = "$from leads to $page, which answers {$answer->getStatusCode()}";

            return [];
        }
        $html = (string) $answer->baseResponse->getContent();
        if (! str_contains($html, '<html')) {
            return [];
        }
        $document = new \DOMDocument;
        @$document->loadHTML('<?xml encoding="utf-8">'.$html);
        $path = new \DOMXPath($document);
        $this->forms($path, $page);
        $links = [];
        foreach ($path->query('//a[@href]') ?: [] as $link) {
            $href = $link instanceof \DOMElement ? $link->getAttribute('href') : '';
            str_starts_with($href, '?') && $href = parse_url($page, PHP_URL_PATH).$href;
            str_starts_with($href, '/') && ! str_starts_with($href, '//') ? $links[] = explode('#', $href)[0] : null;
        }

        return array_values(array_unique($links));
    }

    private static function kind(string $page): ?string
    {
        $request = \Illuminate\Http\Request::create($page);
        try {
            $uri = Route::getRoutes()->match($request)->uri();
        } catch (\Symfony\Component\HttpKernel\Exception\HttpException) {
            return is_file(public_path(ltrim($request->path(), '/'))) ? null : "nothing at {$request->path()}";
        }

        // Where the identity provider is would lead out of here.
        return str_starts_with($uri, 'sign-in') ? null : $uri.' '.implode(',', array_keys($request->query()));
    }

    private function forms(\DOMXPath $path, string $page): void
    {
        foreach ($path->query('//form') ?: [] as $form) {
            if (! $form instanceof \DOMElement) {
                continue;
            }
            $id = $form->getAttribute('id');
            $own = $id === '' ? '' : " | //*[@form='$id']";
            $fields = [];
            foreach ($path->query(".//*[@name]$own", $form) ?: [] as $field) {
                $owner = $field instanceof \DOMElement ? $field->getAttribute('form') : '';
                if (! $field instanceof \DOMElement || $field->nodeName === 'button' || $owner !== '' && $owner !== $id) {
                    continue;
                }
                $fields[] = explode('[', $field->getAttribute('name'))[0];
            }
            $form->hasAttribute('data-takes-picks') ? $fields[] = explode('[', $form->getAttribute('data-takes-picks'))[0] : null;
            foreach ($this->acts($path, $form, $id) as $act) {
                $class = Registry::find($act);
                $asked = $class === null ? [] : array_keys(Inputs::of($class));
                $lost = array_diff(array_unique($fields), $asked, self::OF_FORM, ['']);
                $lost === [] ?: $this->faults[] = self::kind($page)." sends to $act what it does not ask for: ".implode(', ', $lost);
            }
        }
    }

    /** @return list<string> keys of the acts that a form is sent to, by itself or by one of its buttons */
    private function acts(\DOMXPath $path, \DOMElement $form, string $id): array
    {
        $to = [$form->getAttribute('action'), $form->getAttribute('hx-post')];
        foreach ($path->query('.//button[@formaction]'.($id === '' ? '' : " | //button[@form='$id']"), $form) ?: [] as $button) {
            $button instanceof \DOMElement ? array_push($to, $button->getAttribute('formaction'), $button->getAttribute('hx-post')) : null;
        }
        $acts = array_map(static fn (string $t): string => str_starts_with($t, '/act/') ? substr($t, 5) : '', $to);

        return array_values(array_unique(array_filter($acts)));
    }
}
