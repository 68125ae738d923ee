import type { Expr, Lambda, Stmt, Type } from '@wily-jester/core';
import type { AstNode } from '#langium';
import type * as ast from '../grammar/generated/ast.js';
import type { Frame, Sheet } from '../symbols/scope.js';
import type { Around } from './clauses.js';

/** What compiling expressions offers to whatever compiles a part of one: the parts import this, never each other. */
export interface ExprContext {
  readonly sheet: Sheet;
  /** Compiles an expression. @param want the type that it should have, where that helps to read it */
  lower(node: ast.Expr, frame: Frame, want?: Type): Expr;
  /** Compiles and insists on a type. @param what names the place in a problem */
  want(node: ast.Expr, frame: Frame, t: Type, what: string): Expr;
  /** Makes a compiled expression fit a type, or says why it does not. */
  fit(e: Expr, t: Type, node: AstNode, what: string): Expr;
  /** Compiles something that is a list, or a pile taken as its cards. */
  list(node: ast.Expr, frame: Frame, what: string): Expr;
  /** A short function `x => e`, or the name of a def that takes one value. @param values how many it takes */
  lambda(arg: ast.Arg, frame: Frame, item: Type, want: Type | undefined, values?: number): Lambda;
  /** A stand-in after a problem was reported. */
  hole(node: AstNode, want?: Type): Expr;
}

/** What compiling statements offers to whatever compiles one kind of them. */
export interface StmtContext {
  readonly sheet: Sheet;
  readonly x: ExprContext;
  readonly frame: Frame;
  block(node: ast.Block, around: Around): Stmt[];
  /** Compiles cards. @param what names the place in a problem */
  cards(node: ast.Expr, what: string): Expr;
  /** Compiles one pile. @param what names the place in a problem */
  pile(node: ast.Expr, what: string): Expr;
  newLocal(node: ast.Statement, name: string, t: Type): number;
}
