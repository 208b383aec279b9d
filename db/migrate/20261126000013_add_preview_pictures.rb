# frozen_string_literal: true

# The picture that stands for a brush beside its strip: no edition before this one could have any.
class AddPreviewPictures < ActiveRecord::Migration[7.2]
  def change
    add_column :presets, :picture, :text
  end
end
