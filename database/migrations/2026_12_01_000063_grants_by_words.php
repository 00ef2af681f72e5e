<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // The id of an object, or a tag or a stage itself.
        DB::statement('ALTER TABLE grants MODIFY place_id VARCHAR(80) NOT NULL');
        Schema::table('prefixes', fn (Blueprint $t) => $t->index('stage'));
    }

    public function down(): void
    {
        Schema::table('prefixes', fn (Blueprint $t) => $t->dropIndex(['stage']));
        DB::statement('ALTER TABLE grants MODIFY place_id CHAR(26) CHARACTER SET ascii NOT NULL');
    }
};
