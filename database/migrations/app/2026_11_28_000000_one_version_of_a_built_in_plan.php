<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** A user has one version of a built-in plan; where two were written at once the later one stays. */
return new class extends Migration {
    public function up(): void
    {
        DB::table('exit_plans')->whereNotNull('replaces')
            ->whereNotIn(
                'id',
                DB::table('exit_plans')->selectRaw('MAX(id)')->whereNotNull('replaces')->groupBy('user_id', 'replaces'),
            )->delete();
        Schema::table('exit_plans', static function (Blueprint $table): void {
            $table->unique(['user_id', 'replaces']);
        });
    }

    public function down(): void
    {
        Schema::table('exit_plans', static function (Blueprint $table): void {
            $table->dropUnique(['user_id', 'replaces']);
        });
    }
};
