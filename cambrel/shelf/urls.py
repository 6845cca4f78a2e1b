from django.urls import path

from cambrel.shelf import views

app_name = "shelf"
urlpatterns = [path("pick/", views.pick, name="pick")]
