<?php

declare(strict_types=1);

namespace Tests;

use PhpParser\Node;
use PhpParser\NodeFinder;
use PhpParser\ParserFactory;
use Symfony\Component\Finder\Finder;

/** The codes that acts raise and rules find, as they stand in the code: one line a code, for docs/checks.md and for its test. */
final class NoteCodes
{
    private const SAID = ['code', 'message', 'why', 'standard'];

    private const TOLD = ['code', 'message', 'standard'];

    private const METHODS = ['refuse' => 'blocks', 'warn' => 'warns', 'passed' => 'tells'];

    /** @return array<string, array{severity: string, words: string, why: string, standards: list<string>, rooms: list<string>}> by code */
    public static function all(): array
    {
        $codes = [];
        $parser = (new ParserFactory)->createForNewestSupportedVersion();
        $root = dirname(__DIR__);
        $files = (new Finder)->files()->name('*.php')->in(["$root/app/Acts", "$root/app/Domain", "$root/core/Checks"]);
        foreach ($files->sortByName() as $file) {
            $tree = $parser->parse($file->getContents()) ?? [];
            $room = str_replace('/', ' ', dirname(substr($file->getPathname(), strlen($root) + 1)));
            foreach ((new NodeFinder)->findInstanceOf($tree, Node\Expr\MethodCall::class) as $call) {
                $name = $call->name instanceof Node\Identifier ? $call->name->name : '';
                isset(self::METHODS[$name]) ? self::add(
                    $codes,
                    self::METHODS[$name],
                    self::arguments($call->args, $name === 'passed' ? self::TOLD : self::SAID),
                    $room,
                ) : null;
            }
            foreach ((new NodeFinder)->findInstanceOf($tree, Node\Expr\New_::class) as $new) {
                if ($new->class instanceof Node\Name && $new->class->getLast() === 'Finding') {
                    $arguments = self::arguments($new->args, ['code', 'severity', 'message', 'standard', 'owner', 'type', 'why']);
                    self::add($codes, 'is found', $arguments, $room);
                }
            }
        }
        ksort($codes);

        return $codes;
    }

    public static function document(): string
    {
        $text = "# Checks\n\nEvery code that an act or a rule gives, as it stands in the code; this page is written by a test "
            ."(`WRITE_CHECKS=1 ./hpost test pest --filter=checks.md`).\n"
            ."*blocks* stops the act, *warns* asks for a reason, *tells* only says so, *is found* stands on a zone's check page. `…` is "
                ."what is known only then.\n\n"
            ."| code | | says | why, and what to do | standard | where |\n|---|---|---|---|---|---|\n";
        foreach (self::all() as $code => $row) {
            $text .= "| `$code` | {$row['severity']} | ".self::cell($row['words']).' | '.self::cell($row['why']).' | '
                .self::cell(implode(', ', $row['standards'])).' | '.implode(', ', $row['rooms'])." |\n";
        }

        return $text;
    }

    /**
     * @param  array<string, array{severity: string, words: string, why: string, standards: list<string>, rooms: list<string>}>  $codes
     * @param  array<string, ?Node\Expr>  $arguments
     */
    private static function add(array &$codes, string $severity, array $arguments, string $room): void
    {
        $code = $arguments['code'] instanceof Node\Scalar\String_ ? $arguments['code']->value : '';
        if ($code === '') {
            return;
        }
        $row = $codes[$code] ?? ['severity' => $severity, 'words' => '', 'why' => '', 'standards' => [], 'rooms' => []];
        $row['words'] = $row['words'] === '' ? self::words($arguments['message']) : $row['words'];
        $row['why'] = $row['why'] === '' ? self::words($arguments['why']) : $row['why'];
        $standard = self::words($arguments['standard']);
        $standard === '' || $standard === '…' || in_array($standard, $row['standards'], true) ?: $row['standards'][] = $standard;
        in_array($room, $row['rooms'], true) ?: $row['rooms'][] = $room;
        $row['severity'] = $row['severity'] === $severity ? $severity : 'blocks or warns';
        $codes[$code] = $row;
    }

    /**
     * @param  array<Node\Arg|Node\VariadicPlaceholder>  $given
     * @param  list<string>  $names
     * @return array<string, ?Node\Expr>
     */
    private static function arguments(array $given, array $names): array
    {
        $read = array_fill_keys([...$names, 'code', 'message', 'why', 'standard'], null);
        foreach ($given as $i => $one) {
            if ($one instanceof Node\Arg) {
                $read[$one->name->name ?? $names[$i] ?? ''] = $one->value;
            }
        }

        return $read;
    }

    private static function words(?Node\Expr $expression): string
    {
        return match (true) {
            $expression === null => '',
            $expression instanceof Node\Scalar\String_ => $expression->value,
            $expression instanceof Node\Scalar\InterpolatedString => implode('', array_map(
                static fn ($p): string => $p instanceof Node\InterpolatedStringPart ? $p->value : '…',
                $expression->parts,
            )),
            $expression instanceof Node\Expr\BinaryOp\Concat => self::words($expression->left).self::words($expression->right),
            $expression instanceof Node\Expr\ConstFetch => '',
            default => '…',
        };
    }

    private static function cell(string $text): string
    {
        return str_replace(['|', "\n"], ['\\|', ' '], (string) preg_replace('/(…\s*)+/u', '… ', trim($text)));
    }
}
