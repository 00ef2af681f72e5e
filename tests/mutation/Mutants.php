<?php

declare(strict_types=1);

namespace Tests\Mutation;

use PhpParser\Node;
use PhpParser\Node\Expr\BinaryOp;
use PhpParser\NodeFinder;
use PhpParser\ParserFactory;

/**
 * Places of a source where one small change makes another program, which a test should notice.
 *
 * @phpstan-type Mutant array{file: string, line: int, from: int, to: int, text: string, what: string}
 */
final class Mutants
{
    /** operator → what stands in its place */
    private const OPERATORS = [
        '===' => '!==', '!==' => '===', '==' => '!=', '<' => '<=', '<=' => '<', '>' => '>=', '>=' => '>', '&&' => '||', '||' => '&&',
        '+' => '-', '-' => '+', '*' => '+',
    ];

    /** @return list<Mutant> */
    public static function of(string $root, string $file): array
    {
        $source = (string) file_get_contents("$root/$file");
        $tree = (new ParserFactory)->createForNewestSupportedVersion()->parse($source) ?? [];
        $found = [];
        foreach ((new NodeFinder)->find($tree, static fn (Node $n): bool => true) as $node) {
            foreach (self::at($node, $source) as [$from, $to, $text, $what]) {
                $line = substr_count($source, "\n", 0, $from) + 1;
                $found[] = ['file' => $file, 'line' => $line, 'from' => $from, 'to' => $to, 'text' => $text, 'what' => $what];
            }
        }

        return $found;
    }

    /** @return \Generator<int, array{int, int, string, string}> from, to, what stands there then, and how that is said */
    private static function at(Node $node, string $source): \Generator
    {
        if ($node instanceof BinaryOp && isset(self::OPERATORS[$node->getOperatorSigil()])) {
            $sign = $node->getOperatorSigil();
            $between = $node->left->getEndFilePos() + 1;
            $at = strpos($source, $sign, $between);
            if ($at !== false && $at < $node->right->getStartFilePos()) {
                yield [$at, $at + strlen($sign), self::OPERATORS[$sign], "$sign becomes ".self::OPERATORS[$sign]];
            }
        }
        if ($node instanceof Node\Expr\ConstFetch && in_array($node->name->toLowerString(), ['true', 'false'], true)) {
            $other = $node->name->toLowerString() === 'true' ? 'false' : 'true';
            yield [$node->getStartFilePos(), $node->getEndFilePos() + 1, $other, "{$node->name} becomes $other"];
        }
        if ($node instanceof Node\Expr\BooleanNot) {
            yield [$node->getStartFilePos(), $node->expr->getStartFilePos(), '', 'the negation goes'];
        }
        if ($node instanceof Node\Expr\Ternary && $node->if !== null) {
            $condition = substr($source, $node->cond->getStartFilePos(), $node->cond->getEndFilePos() + 1 - $node->cond->getStartFilePos());
            yield [$node->cond->getStartFilePos(), $node->cond->getEndFilePos() + 1, "!($condition)", 'the choice is turned'];
        }
        if ($node instanceof Node\Stmt\Expression && ($node->expr instanceof Node\Expr\MethodCall
            || $node->expr instanceof Node\Expr\StaticCall)) {
            yield [$node->getStartFilePos(), $node->getEndFilePos() + 1, ';', 'the call goes'];
        }
        if ($node instanceof Node\Scalar\Int_ && $node->value < 1_000_000) {
            yield [$node->getStartFilePos(), $node->getEndFilePos() + 1, (string) ($node->value + 1), "$node->value becomes "
                .($node->value + 1)];
        }
    }
}
