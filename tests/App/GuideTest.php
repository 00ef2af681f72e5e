<?php

declare(strict_types=1);

use App\Guide\Book;
use App\Queries\FindCommands;
use App\Queries\Reach;
use HarborPost\Launcher\Settings;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Route;
use Tests\World;

/** @return string all of what people read: templates and the labels of acts */
function readOnScreen(): string
{
    $text = '';
    $all = array_map(base_path(...), ['resources/views', 'app', 'resources/js']);
    foreach ((new Symfony\Component\Finder\Finder)->files()->in($all) as $file) {
        $text .= str_contains($file->getPathname(), '/views/guide/') ? '' : $file->getContents();
    }

    return (string) preg_replace('/\s+/', ' ', strip_tags(str_replace(['<kbd', '</kbd>'], [' <kbd', '</kbd> '], $text)).' '.$text);
}

it('says nothing of labels, pages, pictures, commands and settings that there are not', function (): void {
    $screen = readOnScreen();
    $this->w = World::make();
    $gone = [];
    require_once base_path('launcher/Settings.php');
    foreach (Book::GUIDES as $name) {
        $text = (string) file_get_contents(base_path("docs/guide/$name.md"));
        preg_match_all('/(?<![*\w])\*([^*\n]+)\*(?![*\w])/', (string) preg_replace('/<!--.*?-->/s', '', $text), $labels);
        foreach ($labels[1] as $label) {
            str_contains($screen, $label) || $gone[] = "$name: *$label*";
        }
        preg_match_all('/\]\((\/[^)#]*)/', $text, $links);
        foreach ($links[1] as $link) {
            $who = $this->w->people[str_starts_with($link, '/ship/hooks') ? 'steward' : 'planner'];
            $status = $this->actingAs($who)->get($link)->getStatusCode();
            in_array($status, [200, 302], true) || $gone[] = "$name: $link answers $status";
        }
        preg_match_all('/\]\((\.\.\/screenshots\/[^)]+)\)/', $text, $pictures);
        foreach ($pictures[1] as $picture) {
            is_file(base_path("docs/guide/$picture")) || $gone[] = "$name: $picture";
        }
        preg_match_all('/`\.\/hpost ([a-z:]+)/', $text, $commands);
        foreach ($commands[1] as $command) {
            $own = str_contains((string) file_get_contents(base_path('launcher/Launcher.php')), "                '$command' => ");
            $own || isset(Artisan::all()[$command]) || $gone[] = "$name: ./hpost $command";
        }
        preg_match_all('/`(docs\/[a-z.]+)`/', $text, $docs);
        foreach ($docs[1] as $doc) {
            is_file(base_path($doc)) || $gone[] = "$name: $doc";
        }
    }
    expect($gone)->toBe([]);
});

it('leads from each page to the tasks that are about it', function (): void {
    $paths = array_map(
        static fn ($r): string => '/'.preg_replace('/\{\w+\??\}/', 'X', $r->uri()), Route::getRoutes()->getRoutesByMethod()['GET'],
    );
    foreach (Book::all() as $task) {
        expect($task->pages)->not->toBe([], $task->title);
        foreach ($task->pages as $page) {
            $fits = array_filter($paths, $task->isAbout(...));
            $known = $fits !== [] || in_array($page, ['/directory/people', '/plan/prefix/*', '/name/zone/*'], true);
            expect($known)->toBeTrue("$task->title: $page");
        }
    }
    $w = World::make(scope: false);
    $this->actingAs($w->people['reader']);
    $this->get("/guide/about?page=/name/zone/{$w->zone->id}")->assertRedirect('/guide/operator#change-records');
    $this->get("/guide/about?page=/plan/prefix/{$w->subnet->id}")->assertOk()->assertSee('Place a host')->assertSee('Carve a subnet');
    $this->get('/guide/about?page='.urlencode('/nowhere/"><script>'))->assertOk()->assertReads('No task of the guides')
        ->assertDontSee('<script>', false);
});

it('is read in the application as it is written, with its pictures, and nothing is run of it', function (): void {
    $w = World::make(scope: false);
    $this->actingAs($w->people['reader']);
    foreach (Book::GUIDES as $name) {
        $page = $this->get("/guide/$name")->assertOk();
        foreach (Book::tasks($name) as $task) {
            $page->assertSee("id=\"$task->slug\"", false)->assertSee($task->title);
        }
    }
    $this->get('/guide/operator')->assertSee('src="/guide/picture/subnet"', false)->assertDontSee('<!--', false);
    $this->get('/guide/picture/subnet')->assertOk()->assertHeader('Content-Type', 'image/png');
    $this->get('/guide/picture/nothing')->assertNotFound();
    $this->get('/guide/nothing')->assertNotFound();
    $this->get('/guide/../../.env')->assertNotFound();
    // What does not open for who reads leads nowhere.
    $this->get('/guide/steward')->assertDontSee('href="/ship/hooks"', false)->assertSee('Hooks');
    $this->actingAs($w->people['steward'])->get('/guide/steward')->assertSee('href="/ship/hooks"', false);
    $this->actingAs($w->people['reader']);
    $this->get('/guide?q=take+back')->assertOk()->assertSee('Take a change back');
    $this->get('/guide?q=zzzz')->assertReads('No task of the guides has these words');
});

it('tells every command and every setting from their declarations', function (): void {
    $w = World::make(scope: false);
    $this->actingAs($w->people['reader']);
    $page = $this->get('/guide/commands')->assertOk();
    foreach (Artisan::all() as $name => $command) {
        if (str_starts_with($command::class, 'App\\Console\\') && ! $command->isHidden()) {
            expect($command->getDescription())->not->toBe('', $name);
            $page->assertSee((string) $name);
        }
    }
    require_once base_path('launcher/Settings.php');
    $settings = $this->get('/guide/settings')->assertOk();
    foreach (Settings::KNOWN as $name => [$default, $why]) {
        $settings->assertSee($name)->assertSee($why);
    }
});

it('is found by the field that finds everything', function (): void {
    $w = World::make(scope: false);
    $planner = $w->people['planner'];
    $find = fn (string $text): array => array_column(FindCommands::of($text, Reach::of($planner), $planner), 'words');
    expect($find('how do I carve'))->toContain('Carve a subnet by the hosts it needs')->and($find('mend drift'))->toContain('Mend a drift')
        ->and($find('guide scope'))->toContain('Make a scope and try it')
        ->and($find('carve'))->not->toContain('Carve a subnet by the hosts it needs')
        ->and($find('10.0.0.1'))->toBe([]);
});
